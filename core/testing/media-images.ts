import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { gunzipSync } from 'node:zlib'
import type { MediaItem } from '../scanning/item'
import { contentOf, scanImage, type ScanOptions, type ScanOutcome } from '../scanning/scan'
import { PatientSource } from '../sources/patient-source'
import { bytesSource } from '../sources/source'
import { Truth } from '../../stand-ins/media/truth'

const FOLDER = join(import.meta.dirname, '../../stand-ins/media/images')

export const IMAGES = [
  'floppy',
  'two-volumes',
  'camera-card',
  'stick',
  'laptop',
  'server',
  'ext3',
  'ext2',
  'recorder',
  'odd-ntfs',
  'odd-exfat',
  'odd-ext4',
] as const
export type ImageName = (typeof IMAGES)[number]

/** Byte offsets of partition tables and file-system structures, the targets of the damage. */
export const STRUCTURES: readonly (readonly [name: ImageName, from: number, length: number])[] = [
  ['floppy', 0, 16_384],
  ['two-volumes', 0, 512],
  ['two-volumes', 2048 * 512, 400_000],
  ['stick', 0, 2_200_000],
  ['laptop', 0, 33_792],
  ['laptop', 2048 * 512, 400_000],
  ['laptop', 2048 * 512 + 16_384, 120_000],
  ['server', 1024, 700_000],
  ['ext3', 1024, 300_000],
  ['ext2', 1024, 300_000],
]

const images = new Map<ImageName, Uint8Array>()

export function imageBytes(name: ImageName): Uint8Array {
  const known = images.get(name) ?? new Uint8Array(gunzipSync(readFileSync(join(FOLDER, `${name}.img.gz`))))
  images.set(name, known)
  return known
}

export const truthOf = (name: ImageName) => Truth.parse(JSON.parse(readFileSync(join(FOLDER, `${name}.json`), 'utf8')))

export const ALL: ScanOptions = { pass: 'both', formats: null, only: 'all', isWhole: false }

export function scanned(bytes: Uint8Array, options: Partial<ScanOptions> = {}): ScanOutcome {
  const steps = scanImage(new PatientSource(bytesSource(bytes)), { ...ALL, ...options })
  for (let step = steps.next(); ; step = steps.next()) if (step.done) return step.value
}

export function contentBytes(bytes: Uint8Array, item: MediaItem): Uint8Array {
  const content = contentOf(new PatientSource(bytesSource(bytes)), item)
  return content.read(0, content.size)
}

export const sha256 = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex')

/** A file of an image, by the end of its path in the truth: by its checksum, since a deleted name may have lost a letter. */
export function fileOf(name: ImageName, path: string): Uint8Array {
  const told = truthOf(name).files.find((file) => file.path.endsWith(path))
  const bytes = imageBytes(name)
  for (const item of quickItems(name).filter((one) => one.bytes === told?.bytes && one.content !== 'overwritten')) {
    const content = contentBytes(bytes, item)
    if (sha256(content) === told?.sha256) return content
  }
  throw new Error(`${path} is not on ${name}`)
}

const quick = new Map<ImageName, readonly MediaItem[]>()
function quickItems(name: ImageName): readonly MediaItem[] {
  const items = quick.get(name) ?? scanned(imageBytes(name), { pass: 'quick' }).items
  quick.set(name, items)
  return items
}
