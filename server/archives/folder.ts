import { lstat, open, opendir, realpath } from 'node:fs/promises'
import { join, sep } from 'node:path'
import { entryParts } from '../../core/archives/entry-name'
import { MAX_ENTRIES, type Container, type Entry } from '../../core/archives/container'
import { partsOf } from './parts'

/** Opens a folder and everything below it read only; symbolic links in it are not followed. */
export async function openFolder(path: string): Promise<Container> {
  const root = await realpath(path)
  const entries: Entry[] = []
  const warnings: string[] = []
  const walk = async (below: string): Promise<void> => {
    for await (const one of await opendir(join(root, below))) {
      if (entries.length >= MAX_ENTRIES) return
      const name = below === '' ? one.name : `${below}/${one.name}`
      if (one.isSymbolicLink()) warnings.push(`${JSON.stringify(name.slice(0, 80))} is left out: it is a link`)
      else if (entryParts(name) === null)
        warnings.push(`${JSON.stringify(name.slice(0, 80))} is left out: its name is invalid`)
      else if (one.isDirectory()) await walk(name)
      else if (one.isFile()) {
        const { size, mtimeMs } = await lstat(join(root, name))
        entries.push({ name, bytes: size, changed: Math.round(mtimeMs) })
      }
    }
  }
  await walk('')
  const known = new Set(entries.map((entry) => entry.name))
  return {
    entries,
    warnings,
    async *read(name) {
      const real = known.has(name) ? await realpath(join(root, name)) : null
      // Somebody may have put a symbolic link in its place since.
      if (!real?.startsWith(root + sep)) throw new Error(`${name} is not in the folder`)
      const file = await open(real, 'r')
      try {
        yield* partsOf(file, 0, (await file.stat()).size)
      } finally {
        await file.close()
      }
    },
    close: async () => {},
  }
}
