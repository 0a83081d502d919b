import { asc, eq } from 'drizzle-orm'
import { z } from 'zod'
import type { MediaItem } from '../../core/scanning/item'
import type { ScanResume } from '../../core/scanning/scan'
import type { Handle } from '../cases/rows'
import type { Database } from '../db/open'
import { passNotes } from '../db/tables'

const stretch = z.tuple([z.int(), z.int()])

/** What the deep scan found since the note before, and how far it and the checksum had come. */
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
  // What is found by content lies where its extents are: it has no source of its own that would have to be written down.
  handle
    .insert(passNotes)
    .values({ passId, body: JSON.stringify(note) })
    .run()
}

export function dropNotes(handle: Handle, passId: number): void {
  handle.delete(passNotes).where(eq(passNotes.passId, passId)).run()
}

/** From where a scan goes on; undefined where it begins. */
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
