import { asc, eq } from 'drizzle-orm'
import { z } from 'zod'
import type { MediaItem } from '../../core/scanning/item'
import type { ScanResume } from '../../core/scanning/scan'
import type { Handle } from '../cases/rows'
import type { Database } from '../db/open'
import { passNotes } from '../db/tables'

const stretch = z.tuple([z.int(), z.int()])

/** A checkpoint: what the deep scan found since the one before, and how far it and the checksum had come. */
const PassNote = z.object({
  at: z.int(),
  content: z.array(z.custom<MediaItem>((one) => typeof one === 'object' && one !== null)),
  traces: z.array(z.int()),
  unreadable: z.array(stretch),
  checksum: z.object({ to: z.int(), state: z.base64() }).nullable(),
})
export type PassNote = z.infer<typeof PassNote>

export function readNotes(database: Database, passId: number): PassNote[] {
  return database
    .select({ body: passNotes.body })
    .from(passNotes)
    .where(eq(passNotes.passId, passId))
    .orderBy(asc(passNotes.id))
    .all()
    .map(({ body }) => PassNote.parse(JSON.parse(body)))
}

export function writeNote(handle: Handle, passId: number, note: PassNote): void {
  // Content found by scanning is located by its extents, so its source is not stored.
  handle
    .insert(passNotes)
    .values({ passId, body: JSON.stringify(note) })
    .run()
}

export function dropNotes(handle: Handle, passId: number): void {
  handle.delete(passNotes).where(eq(passNotes.passId, passId)).run()
}

/** Where a scan resumes; undefined where it starts. */
export function resumeOf(notes: readonly PassNote[]): ScanResume | undefined {
  const last = notes.at(-1)
  return (
    last && {
      at: last.at,
      items: notes.flatMap(({ content }) => content),
      traces: notes.flatMap(({ traces }) => traces),
    }
  )
}
