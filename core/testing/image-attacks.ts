import { formatOfName } from '../files/formats/registry'
import type { MediaItem } from '../scanning/item'
import type { ScanOptions } from '../scanning/scan'
import { HOLE, type Extent } from '../sources/source'
import { chances } from '../../stand-ins/content/chance'
import { contentBytes, imageBytes, scanned, sha256, truthOf, type ImageName } from './media-images'

const SECTOR_BYTES = 512
const CLUSTER_BYTES = 4096

/** A change to an image that a broken-off imaging, a worn sector or a stray write could make. */
export interface Attack {
  readonly says: string
  readonly bytes: Uint8Array
}

/** Formats whose every byte is proved: by checksums, or because the data is decoded. */
const SELF_PROVING = new Set(['png', 'zip', 'flac', 'gif', 'jpeg', 'ogg'])

/** Checksums of everything that was ever written to an image, and by path what each file was. */
export function writtenTo(name: ImageName) {
  const truth = truthOf(name)
  const byPath = new Map<string, Set<string>>()
  for (const { path, sha256: sum } of truth.files) byPath.set(path, (byPath.get(path) ?? new Set()).add(sum))
  return { all: new Set([...truth.ballast, ...truth.files.map((file) => file.sha256)]), byPath }
}

/** Items of a scan that are called intact although no such file was ever written, or another one under that path. */
export function wronglyIntact(name: ImageName, bytes: Uint8Array, options: Partial<ScanOptions> = {}): MediaItem[] {
  const { all, byPath } = writtenTo(name)
  return scanned(bytes, options).items.filter((item) => {
    if (item.content !== 'intact') return false
    const content = contentBytes(bytes, item)
    if (content.length !== item.bytes) return true
    const sum = sha256(content)
    const ofPath = item.path === null ? undefined : byPath.get(item.path)
    if (item.bytes === 0) return ofPath !== undefined && !ofPath.has(sum)
    return !all.has(sum) || (ofPath !== undefined && !ofPath.has(sum))
  })
}

interface Layout {
  /** sectors of what the file systems keep for themselves, by their numbers */
  readonly structures: readonly number[]
  /** pieces of files whose format proves itself, no longer than a cluster of 4096 bytes; in bytes of the image */
  readonly provable: readonly Extent[]
}

const layouts = new Map<ImageName, Layout>()

/** Where an image keeps its structures and its provable files, as an undamaged scan of it says. */
export function layoutOf(name: ImageName): Layout {
  const known = layouts.get(name)
  if (known) return known
  const bytes = imageBytes(name)
  const items = scanned(bytes).items.filter(({ content }) => content === 'intact' || content === 'unverified')
  const isContent = new Uint8Array(Math.ceil(bytes.length / SECTOR_BYTES))
  const provable: Extent[] = []
  for (const { extents, path, extension, content, source } of items) {
    const format = formatOfName(path ?? `x.${extension}`)?.id ?? ''
    for (const [offset, length] of extents) {
      if (offset === HOLE) continue
      isContent.fill(1, Math.floor(offset / SECTOR_BYTES), Math.ceil((offset + length) / SECTOR_BYTES))
      if (content === 'intact' && source === null && SELF_PROVING.has(format))
        for (let at = offset; at < offset + length; at += CLUSTER_BYTES)
          provable.push([at, Math.min(CLUSTER_BYTES, offset + length - at)])
    }
  }
  const structures = [...isContent.keys()].filter(
    (sector) =>
      isContent[sector] === 0 &&
      bytes.subarray(sector * SECTOR_BYTES, (sector + 1) * SECTOR_BYTES).some((byte) => byte),
  )
  const layout = { structures, provable }
  layouts.set(name, layout)
  return layout
}

/** So many images that break off at some byte, as a broken-off imaging leaves them. */
export function* cut(name: ImageName, count: number, seed: number): Iterable<Attack> {
  const bytes = imageBytes(name)
  const chance = chances(seed)
  for (let index = 0; index < count; index++) {
    const at = 1 + Math.floor(chance() * (bytes.length - 1))
    yield { says: `cut at byte ${at}`, bytes: bytes.subarray(0, at) }
  }
}

/** So many images of which one sector of the file systems' own structures is zeros; with `all`, each of them in turn. */
export function* withoutStructure(name: ImageName, count: number, seed: number): Iterable<Attack> {
  const sectors = layoutOf(name).structures.map((sector): Extent => [sector * SECTOR_BYTES, SECTOR_BYTES])
  yield* zeroed(name, sectors, count, seed)
}

/** So many images of which a cluster of a file that proves itself is zeros. */
export function* withoutCluster(name: ImageName, count: number, seed: number): Iterable<Attack> {
  yield* zeroed(name, layoutOf(name).provable, count, seed)
}

function* zeroed(name: ImageName, places: readonly Extent[], count: number, seed: number) {
  const chance = chances(seed)
  // One copy serves all: each change is undone before the next.
  const bytes = imageBytes(name).slice()
  for (let index = 0; index < Math.min(count, places.length); index++) {
    const [at, length] = count >= places.length ? places[index]! : places[Math.floor(chance() * places.length)]!
    const before = bytes.slice(at, at + length)
    bytes.fill(0, at, at + length)
    yield { says: `${length} bytes zeroed at ${at}`, bytes }
    bytes.set(before, at)
  }
}
