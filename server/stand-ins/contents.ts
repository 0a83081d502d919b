import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Contents } from '../../stand-ins/helper/things'

/** The bytes of the stand-ins' items in a folder, each under its checksum. */
export function contentsIn(folder: string): Contents {
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  const pathOf = (sha256: string) => {
    if (!/^[0-9a-f]{64}$/.test(sha256)) throw new Error('That is not a checksum.')
    return join(folder, sha256)
  }
  return {
    put: (bytes) => {
      const sha256 = createHash('sha256').update(bytes).digest('hex')
      const path = pathOf(sha256)
      if (!existsSync(path)) {
        // A file named by its checksum is complete or absent.
        writeFileSync(`${path}.part`, bytes, { mode: 0o600 })
        renameSync(`${path}.part`, path)
      }
      return sha256
    },
    get: (sha256) => new Uint8Array(readFileSync(pathOf(sha256))),
  }
}
