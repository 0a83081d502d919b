import type { ByteSource } from '../sources/source'
import { recogniseExfat } from './filesystems/exfat/exfat'
import { recogniseExt } from './filesystems/ext/ext'
import { recogniseFat } from './filesystems/fat/fat'
import type { FileSystem, Recognise } from './filesystems/file-system'
import { recogniseNtfs } from './filesystems/ntfs/ntfs'

/** Every file system that can be read; those whose first sector names them come before FAT, whose does not. */
const KNOWN: readonly Recognise[] = [recogniseNtfs, recogniseExfat, recogniseExt, recogniseFat]

/** The file system on a volume of an image (offset and length in bytes); null where it is none of those that are known. */
export function recognise(image: ByteSource, offset: number, length: number): FileSystem | null {
  for (const one of KNOWN) {
    const found = one(image, offset, length)
    if (found) return found
  }
  return null
}
