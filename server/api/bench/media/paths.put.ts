import { realpath, stat } from 'node:fs/promises'
import { isAbsolute, sep } from 'node:path'
import { z } from 'zod'
import { liesOnSource } from '../../../../disk/same-medium'
import { invalid } from '../../../failure'
import { namedPaths, namePaths } from '../../../media/register'

const Paths = z.object({ paths: z.array(z.string().trim().min(1).max(1000)).max(50) })

/** The images and block devices that may be read here; the owner names them. One that is named already may be away. */
export default defineRoute({ may: 'playbook', body: Paths }, async ({ body }) => {
  const before = new Set(namedPaths())
  const real: string[] = []
  for (const path of body.paths)
    real.push(before.has(path) ? path : await allowed(path, (message) => invalid([{ path, message }])))
  namePaths([...new Set(real)])
  return { paths: namedPaths() }
})

async function allowed(path: string, fault: (message: string) => Error): Promise<string> {
  if (!isAbsolute(path)) throw fault('is not named from the root of the disk on')
  const facts = await stat(path).catch(() => null)
  if (!facts) throw fault('is not there, or can not be seen from here')
  if (!facts.isFile() && !facts.isBlockDevice()) throw fault('is no image and no block device')
  const named = await realpath(path)
  const own = await realpath(dataFolder())
  if (named.startsWith(own + sep)) throw fault('lies among what this shop keeps; images are placed in its media folder')
  if (liesOnSource(own, named)) throw fault('is what the shop’s own data lie on; nothing is written to a source')
  return named
}
