import { realpath, stat } from 'node:fs/promises'
import { isAbsolute } from 'node:path'
import { z } from 'zod'
import { nameFolders, namedFolders } from '../../bench/folders'
import { invalid } from '../../failure'

const Folders = z.object({ folders: z.array(z.string().trim().min(1).max(1000)).max(20) })

/** The folders in which backups are found by themselves; the owner names them. */
export default defineRoute({ may: 'playbook', body: Folders }, async ({ body }) => {
  const real: string[] = []
  for (const [at, folder] of body.folders.entries()) {
    const fault = (message: string) => invalid([{ path: `folders.${at}`, message }])
    if (!isAbsolute(folder)) throw fault('is not named from the root of the disk on')
    const facts = await stat(folder).catch(() => null)
    if (!facts?.isDirectory()) throw fault('is no folder that can be read here')
    real.push(await realpath(folder))
  }
  nameFolders([...new Set(real)])
  return { folders: namedFolders() }
})
