import { open, stat } from 'node:fs/promises'
import type { Container } from '../../core/archives/container'
import { openFolder } from './folder'
import { openTar } from './tar'
import { openZip } from './zip'

/**
 * Opens whatever holds files at this path, detected by content and not by name; throws an Error with the reason. A zip
 * archive that has lost its directory is searched for whole entries unless `isSalvaged` is false: that takes long.
 */
export async function openContainer(
  path: string,
  { isSalvaged = true }: { readonly isSalvaged?: boolean } = {},
): Promise<Container> {
  if ((await stat(path)).isDirectory()) return openFolder(path)
  return (await startsLikeZip(path)) ? openZip(path, isSalvaged) : openTar(path)
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
