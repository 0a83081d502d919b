import { readdirSync, realpathSync, statfsSync, statSync } from 'node:fs'
import { isAbsolute, join, sep } from 'node:path'

/** File systems that the kernel makes up: nothing on them is a client's (statfs(2), linux/magic.h). */
const MADE_UP = new Set([
  0x9fa0, // proc
  0x62656572, // sysfs
  0x27e0eb, // cgroup
  0x63677270, // cgroup2
  0x64626720, // debugfs
  0x74726163, // tracefs
  0x73636673, // securityfs
  0x62656570, // configfs
  0xcafe4a11, // bpf
  0x6165676c, // pstore
  0xde5e81e4, // efivarfs
])

export type Nameable = { readonly path: string } | { readonly fault: string }
const fault = (says: string): Nameable => ({ fault: says })

/**
 * Where a path really leads that an owner names as a medium (an image or a block device) or as a folder of backups, or why it
 * may not be named: what the shop keeps itself is neither, by whatever link it is reached, nor what the kernel makes up.
 */
export function nameable(path: string, as: 'medium' | 'folder', dataFolder: string): Nameable {
  if (!isAbsolute(path)) return fault('has to be an absolute path')
  let real: string
  try {
    real = realpathSync(path)
  } catch {
    return fault('is not there, or cannot be seen from here')
  }
  const facts = statSync(real)
  if (as === 'folder' ? !facts.isDirectory() : !facts.isFile() && !facts.isBlockDevice())
    return fault(as === 'folder' ? 'is not a folder that can be read here' : 'is neither an image nor a block device')
  if (real === sep) return fault('is the root of this machine')
  if (MADE_UP.has(statfsSync(real).type >>> 0)) return fault('is a virtual file system and holds no client data')
  const own = realpathSync(dataFolder)
  const isOwn = real === own || real.startsWith(own + sep) || own.startsWith(real + sep)
  if (isOwn) return fault('is part of the shop’s own data or contains it; put images into the media folder')
  if (facts.isFile() && isSecondName(own, facts)) return fault('is another name of one of the shop’s own files')
  return { path: real }
}

/** Whether the top of a folder holds the same file under another name. */
function isSecondName(folder: string, { dev, ino }: { readonly dev: number; readonly ino: number }): boolean {
  return readdirSync(folder).some((name) => {
    const facts = statSync(join(folder, name), { throwIfNoEntry: false })
    return facts !== undefined && facts.dev === dev && facts.ino === ino
  })
}
