import { mkdtemp, readFile, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { contentOf, itemView } from '../../stand-ins/helper/holding'
import type { Contents, StoredBackup } from '../../stand-ins/helper/things'
import { packBackup, writeZip } from '../archives/write-backup'

/** Makes the archive of a stand-in's backup, in the open format in which any backup is read. */
export async function archiveOf(backup: StoredBackup, contents: Contents): Promise<{ sha256: string; bytes: number }> {
  const folder = await mkdtemp(join(tmpdir(), 'lantern-backup-'))
  try {
    const path = join(folder, 'backup.zip')
    const files = packBackup(
      {
        device: { id: backup.device, title: backup.deviceTitle, platform: backup.platform },
        account: backup.account,
        taken: backup.taken,
        keepsBins: backup.keepsBins,
        keeps: backup.keeps.map(({ id, kind, title, types, periodDays, isOn }) => ({
          id,
          kind,
          title,
          types,
          periodDays,
          isOn,
        })),
        items: backup.keeps.flatMap((keep) =>
          keep.items.map((item) => ({
            keep: keep.id,
            item: itemView(keep, item),
            bytes: async () => contentOf(item, contents),
          })),
        ),
      },
      backup.password,
    )
    await writeZip(path, files)
    const bytes = new Uint8Array(await readFile(path))
    return { sha256: contents.put(bytes), bytes: bytes.length }
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}
