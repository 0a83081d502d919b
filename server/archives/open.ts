import { open, stat } from 'node:fs/promises'
import type { Container } from '../../core/archives/container'
import { openFolder } from './folder'
import { openTar } from './tar'
import { openZip } from './zip'

/** Opens whatever holds files at this path, told by its bytes and not by its name; throws with why not in words. */
export async function openContainer(path: string): Promise<Container> {
  if ((await stat(path)).isDirectory()) return openFolder(path)
  return (await startsLikeZip(path)) ? openZip(path) : openTar(path)
}

async function startsLikeZip(path: string): Promise<boolean> {
  const file = await open(path, 'r')
  try {
    const { buffer } = await file.read(Buffer.alloc(4), 0, 4, 0)
    return buffer.toString('latin1', 0, 2) === 'PK'
  } finally {
    await file.close()
  }
}
