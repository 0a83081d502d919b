import {
  closeSync,
  existsSync,
  fsyncSync,
  lstatSync,
  mkdirSync,
  openSync,
  readFileSync,
  renameSync,
  writeSync,
} from 'node:fs'
import { join, resolve } from 'node:path'
import { SafePaths } from '../core/bench/safe-path'
import type { MediaItem } from '../core/scanning/item'
import { contentOf, markUnreadable, reported } from '../core/scanning/scan'
import type { ScanItem } from '../core/scanning/scan-report'
import { MANIFEST_END, manifestHead, readManifest, type ShelfLine, type ShelfManifest } from '../core/bench/scan-shelf'
import type { PatientSource } from '../core/sources/patient-source'
import type { ByteSource } from '../core/sources/source'
import type { ScanWarning } from '../core/volumes/filesystems/volume-shape'
import { openFile } from '../disk/file-source'
import { roomAt, sha256Of, writeItem } from '../disk/write-items'

/** Room that is left on the medium of a shelf, whatever is copied. */
const SPARE_BYTES = 16 * 1024 * 1024
const MANIFEST = 'manifest.json'

type Kept = { readonly items: ScanItem[]; readonly warnings: ScanWarning[] } | { readonly faults: string[] }

/**
 * Copies all that can be recovered, with a manifest that is written as it goes; refused before the first byte where there is no
 * room. What an earlier run copied and is still as it was is left as it is.
 */
export function keepOnShelf(image: PatientSource, items: readonly MediaItem[], shelf: string, name: string): Kept {
  const before = existsSync(join(shelf, MANIFEST))
    ? readManifest(readFileSync(join(shelf, MANIFEST), 'utf8'))
    : undefined
  if (before === null) return { faults: [`--shelf: its ${MANIFEST} is none of ours; choose another folder`] }
  if (before && (before.image.name !== name || before.image.bytes !== image.size))
    return { faults: [`--shelf: holds what was recovered from ${before.image.name}; choose another folder`] }
  const there = grouped(before?.items ?? [])
  const wanted = items.filter(({ content }) => content !== 'overwritten')
  const need = wanted
    .filter((item) => !there.get(keyOf(lineOf(item)))?.some((line) => hasLength(shelf, line)))
    .reduce((sum, item) => sum + contentOf(image, item).size, 0)
  const room = roomAt(resolve(shelf)) - SPARE_BYTES
  if (need > room) return { faults: [`--shelf: ${need} bytes are needed, ${Math.max(0, room)} are free`] }
  mkdirSync(shelf, { recursive: true })
  const manifest = new ManifestFile(join(shelf, MANIFEST), { name, bytes: image.size }, before?.items ?? [])
  try {
    return new Shelf(image, shelf, { there, manifest }).keep(items)
  } finally {
    manifest.close()
  }
}

/** Several files may have stood under one name in one record: then the checksum tells them apart. */
function grouped(lines: readonly ShelfLine[]): Map<string, ShelfLine[]> {
  const groups = new Map<string, ShelfLine[]>()
  for (const line of lines) groups.set(keyOf(line), [...(groups.get(keyOf(line)) ?? []), line])
  return groups
}

/** Lines are compared by what they are of, whatever their number in a report. */
const keyOf = ({ original, volume, told, extents }: Pick<ShelfLine, 'original' | 'volume' | 'told' | 'extents'>) =>
  JSON.stringify([original, volume, told, extents])

function lineOf(item: MediaItem): Pick<ShelfLine, 'original' | 'volume' | 'told' | 'extents'> {
  const { path, volume, bytes, extents } = reported(item, '', null)
  return { original: path, volume, told: bytes, extents }
}

/** Whether a file of the shelf is there, with its length. */
function hasLength(shelf: string, line: ShelfLine): boolean {
  const facts = lstatSync(join(shelf, line.path), { throwIfNoEntry: false })
  return facts?.isFile() === true && facts.size === line.bytes
}

class Shelf {
  private readonly paths: SafePaths
  private readonly warnings: ScanWarning[] = []
  private readonly lines: ShelfLine[] = []

  constructor(
    private readonly image: PatientSource,
    private readonly folder: string,
    private readonly was: { readonly there: ReadonlyMap<string, ShelfLine[]>; readonly manifest: ManifestFile },
  ) {
    const taken = [...was.there.values()]
      .flat()
      .map(({ path }) => path)
      .filter((path) => existsSync(join(folder, path)))
    this.paths = new SafePaths([MANIFEST, ...taken])
  }

  keep(items: readonly MediaItem[]): Kept {
    const told = items.map((item, at) => this.keepOne(item, `i${at + 1}`))
    this.was.manifest.finish(this.lines)
    return { items: told, warnings: this.warnings }
  }

  private keepOne(item: MediaItem, id: string): ScanItem {
    if (item.content === 'overwritten') return reported(item, id, null)
    const content = contentOf(this.image, item)
    const kept = this.earlier(item, content)
    const copied = kept ?? this.copied(item, content)
    markUnreadable(this.image, item)
    const told = reported(item, id, copied.sha256)
    const { path, bytes, sha256, isVerified } = copied
    if (!isVerified) this.warnings.push({ where: path, what: 'the copy does not match what was read from the image' })
    const { volume, modified, deleted, extents, checks, record } = told
    const now: ShelfLine = {
      item: id,
      path,
      original: item.path,
      volume,
      bytes,
      told: item.bytes,
      sha256,
      created: item.created,
      modified,
      deleted,
      isVerified,
      record,
      content: told.content,
      extents,
      checks,
    }
    this.lines.push(now)
    if (!kept) this.was.manifest.add(now)
    return told
  }

  /** An earlier copy, if it still is what the image holds: its length first, then its checksum. */
  private earlier(item: MediaItem, content: ByteSource): ShelfLine | undefined {
    const lines = this.was.there.get(keyOf(lineOf(item))) ?? []
    const open = lines.filter((line) => line.bytes === content.size && hasLength(this.folder, line))
    if (open.length === 0) return undefined
    const sum = sha256Of(content)
    const line = open.find((one) => one.sha256 === sum && this.sumOf(one.path) === sum)
    // Each copy is one item's.
    if (line) lines.splice(lines.indexOf(line), 1)
    return line && { ...line, isVerified: true }
  }

  private sumOf(path: string): string {
    const file = openFile(join(this.folder, path))
    try {
      return sha256Of(file)
    } finally {
      file.close()
    }
  }

  private copied(item: MediaItem, content: ByteSource) {
    const names = item.path?.split('/') ?? ['found', item.extension, nameOf(item)]
    const path = this.freePath(names)
    return { path, ...writeItem(this.folder, path, content, item.modified) }
  }

  /** Files already on the shelf are left as they are. */
  private freePath(names: readonly string[]): string {
    while (true) {
      const path = this.paths.pathFor(names.slice(0, -1), names.at(-1)!)
      if (!existsSync(join(this.folder, path))) return path
    }
  }
}

/** Something without a name is called by where it begins. */
const nameOf = (item: MediaItem) => `${(item.extents[0]?.[0] ?? 0).toString(16).padStart(12, '0')}.${item.extension}`

/** A manifest that is whole after each line: the end of the document is written with every item, and over the end before. */
class ManifestFile {
  private descriptor: number
  private at: number

  constructor(
    private readonly path: string,
    private readonly image: ShelfManifest['image'],
    private readonly before: readonly ShelfLine[],
  ) {
    this.at = this.replace(before)
    this.descriptor = openSync(path, 'r+')
  }

  add(line: ShelfLine): void {
    const text = `${this.at === Buffer.byteLength(manifestHead(this.image)) ? '' : ',\n'}${JSON.stringify(line)}`
    writeAll(this.descriptor, text + MANIFEST_END, this.at)
    this.at += Buffer.byteLength(text)
  }

  /** The lines of this run, then those of earlier ones that it did not come by. */
  finish(lines: readonly ShelfLine[]): void {
    const own = new Set(lines.map(keyOf))
    this.replace([...lines, ...this.before.filter((line) => !own.has(keyOf(line)))])
  }

  close(): void {
    closeSync(this.descriptor)
  }

  /** Writes all of it anew, in one step; returns where the end of the document begins. */
  private replace(lines: readonly ShelfLine[]): number {
    const text = manifestHead(this.image) + lines.map((line) => JSON.stringify(line)).join(',\n')
    const fresh = `${this.path}.new`
    const descriptor = openSync(fresh, 'w')
    try {
      writeAll(descriptor, text + MANIFEST_END, 0)
      fsyncSync(descriptor)
    } finally {
      closeSync(descriptor)
    }
    renameSync(fresh, this.path)
    return Buffer.byteLength(text)
  }
}

function writeAll(descriptor: number, text: string, at: number): void {
  const bytes = Buffer.from(text)
  for (let done = 0; done < bytes.length;) done += writeSync(descriptor, bytes, done, bytes.length - done, at + done)
}
