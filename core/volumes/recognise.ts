import type { ByteSource } from '../sources/source'
import { exfat } from './filesystems/exfat/exfat'
import { ext } from './filesystems/ext/ext'
import { fat } from './filesystems/fat/fat'
import type { FileSystem, FileSystemFormat } from './filesystems/file-system'
import { ntfs } from './filesystems/ntfs/ntfs'

/** Every file system that can be read; those whose first sector names them come before FAT, whose does not. */
export const FILE_SYSTEMS: readonly FileSystemFormat[] = [ntfs, exfat, ext, fat]

/** The file system on a volume of an image (offset and length in bytes); null where it is none of the known ones. */
export function recognise(image: ByteSource, offset: number, length: number): FileSystem | null {
  for (const one of FILE_SYSTEMS) {
    const found = one.recognise(image, offset, length)
    if (found) return found
  }
  return null
}
