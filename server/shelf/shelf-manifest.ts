import { rename, rm, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { and, asc, eq } from 'drizzle-orm'
import type { Evidence } from '../../core/bench/medium'
import { readStoredFind } from '../db/stored-find'
import { shelfItems } from '../db/tables'
import { checksumOfMedium } from '../passes/pass-shapes'
import { mediumById } from '../links/register'
import { onDisk } from '../links/disk-fault'
import { shelfFolder } from './place'

/** Writes the list of everything on a shelf, for people (SHA256SUMS) and for programs. */
export async function writeManifest(code: string, caseId: number): Promise<void> {
  const folder = await shelfFolder(code)
  const rows = useLantern()
    .database.select()
    .from(shelfItems)
    .where(and(eq(shelfItems.caseId, caseId), eq(shelfItems.state, 'verified')))
    .orderBy(asc(shelfItems.path))
    .all()
  const items = rows.map((row) => {
    const body = readStoredFind(row.body)
    return {
      path: row.path,
      name: row.name,
      bytes: row.bytes,
      sha256: row.sha256,
      isVerified: true,
      whole: row.whole,
      from: { link: row.link, item: row.item },
      made: body.made,
      deleted: body.deleted,
      wanted: row.wanted,
      copied: row.at,
      ...(row.says === '' ? {} : { says: row.says }),
      ...(body.evidence ? { evidence: evidenceToTell(body.evidence) } : {}),
    }
  })
  const manifest = { format: 'russet-lantern/shelf', version: 1, case: code, media: await mediaOf(rows), items }
  await replace(join(folder, 'manifest.json'), `${JSON.stringify(manifest, null, 2)}\n`)
  await replace(join(folder, 'SHA256SUMS'), rows.map((row) => `${row.sha256}  ${row.path}\n`).join(''))
}

/** The media that items on a shelf came from, each with its checksum where a scan has taken it. */
async function mediaOf(rows: readonly { link: string }[]) {
  const media = await Promise.all([...new Set(rows.map(({ link }) => link))].map(mediumById))
  return media.flatMap((medium) =>
    medium
      ? [{ link: medium.id, title: medium.title, bytes: medium.bytes || null, sha256: checksumOfMedium(medium) }]
      : [],
  )
}

/** The extents of an item on the medium, in bytes, and the checks that it passed. */
function evidenceToTell({ extents, checks, record, foundBy, volume }: Evidence) {
  return { record, foundBy, volume, checks, extents: extents.filter(([offset]) => offset >= 0) }
}

/** The old list stays until the new one is on the disk, whole. */
async function replace(path: string, text: string) {
  await onDisk(async () => {
    try {
      await writeFile(`${path}.new`, text, { mode: 0o600, flush: true })
      await rename(`${path}.new`, path)
    } catch (error) {
      await rm(`${path}.new`, { force: true }).catch(() => {})
      throw error
    }
  })
}
