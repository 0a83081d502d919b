// Part of npm run bench: how fast media are read, against a plain loop over the same bytes in the same process, and how much
// memory that takes. Nothing is asserted: machines differ.
import { randomFillSync } from 'node:crypto'
import { closeSync, mkdtempSync, openSync, rmSync, truncateSync, writeFileSync, writeSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { buffer } from 'node:stream/consumers'
import { deflateSync } from 'node:zlib'
import sharp from 'sharp'
import { ZipFile } from 'yazl'
import type { Format } from '../core/files/formats/format'
import { formatOfName } from '../core/files/formats/registry'
import { Reader } from '../core/sources/reader'
import { samples } from '../core/testing/format-samples'
import { deepScan } from '../core/scanning/deep'
import { quickPass } from '../core/scanning/scan'
import { findVolumes } from '../core/volumes/volumes'
import { PatientSource } from '../core/sources/patient-source'
import { bytesSource } from '../core/sources/source'
import { imageBytes } from '../core/testing/media-images'
import { openFile } from '../disk/file-source'
import { helpersFor } from '../disk/helper-program'

const MB = 1024 * 1024
const BLOCK = 8 * MB
const ROUNDS = 5
const folder = mkdtempSync(join(tmpdir(), 'lantern-bench-'))
const say = (words: string) => process.stdout.write(`${words}\n`)
const median = (values: number[]) => values.sort((a, b) => a - b)[values.length >> 1]!

function timed(work: () => void): number {
  const began = performance.now()
  work()
  return performance.now() - began
}

function image(name: string, bytes: number, fill: (block: Buffer, at: number) => void): string {
  const path = join(folder, name)
  const file = openSync(path, 'w')
  const block = Buffer.alloc(BLOCK)
  for (let at = 0; at < bytes; at += BLOCK) {
    fill(block, at)
    writeSync(file, block)
  }
  closeSync(file)
  return path
}

function scan(path: string): number {
  const file = openFile(path)
  const shape = {
    index: 0,
    scheme: 'none',
    fileSystem: null,
    offset: 0,
    bytes: file.size,
    label: null,
    verdict: 'unknown',
    says: '',
    lock: null,
  } as const
  const helpers = helpersFor(file.size, { path, opened: [] })
  let found = 0
  for (const { items } of deepScan(new PatientSource(file), [{ shape, fileSystem: null }], {
    isWhole: false,
    formats: null,
    ...(helpers ? { helpers } : {}),
  }))
    found += items.length
  helpers?.end()
  file.close()
  return found
}

function read(path: string): void {
  const file = openFile(path)
  const block = new Uint8Array(BLOCK)
  for (let at = 0; at < file.size; at += BLOCK) file.readInto!(block, at)
  file.close()
}

/** How fast a file of each format is followed, in MB for each second of the processor, and as a part of a plain read. */
async function perFormat(readMs: number): Promise<void> {
  const readRate = 1024 / (readMs / 1000)
  const rows: [name: string, format: Format, bytes: Uint8Array][] = []
  for (const [name, progressive] of [
    ['a photo of 12 megapixels', false],
    ['the same in several scans', true],
  ] as const)
    rows.push([name, formatOfName('x.jpg')!, await photo(progressive)])
  rows.push(['an archive of long texts', formatOfName('x.zip')!, await archive(true)])
  rows.push(['an archive of pictures', formatOfName('x.zip')!, await archive(false)])
  rows.push(['a document with packed pages', formatOfName('x.pdf')!, packedDocument()])
  for (const { name, bytes, format } of samples) rows.push([name, format, bytes])
  for (const [name, format, bytes] of rows) {
    const rates: number[] = []
    for (let round = 0; round < ROUNDS; round++) {
      const began = process.cpuUsage()
      const times = Math.max(1, Math.ceil((4 * MB) / bytes.length))
      for (let at = 0; at < times; at++) format.walk(new Reader(bytesSource(bytes), 4096))
      const { user, system } = process.cpuUsage(began)
      rates.push((bytes.length * times) / MB / ((user + system) / 1e6))
    }
    const rate = median(rates)
    say(
      `${format.id.padEnd(10)} ${name.padEnd(26)} ${rate.toFixed(rate < 100 ? 1 : 0).padStart(8)} MB/s, ${(rate / readRate).toFixed(3)} of a plain read`,
    )
  }
}

/** Texture in several sizes and grain: what a camera sees, for the work that a decoder has with it. */
async function photo(progressive: boolean): Promise<Uint8Array> {
  const [width, height] = [4000, 3000]
  const raw = Buffer.alloc(width * height * 3)
  let seed = 7
  const random = () => ((seed = (Math.imul(seed, 1103515245) + 12345) >>> 0) >>> 16) / 65_536
  const coarse = Float32Array.from({ length: (width / 50) * (height / 50) }, random)
  for (let at = 0; at < raw.length; at++) {
    const [x, y] = [Math.floor(at / 3) % width, Math.floor(at / 3 / width)]
    raw[at] = 40 + 150 * coarse[Math.floor(y / 50) * (width / 50) + Math.floor(x / 50)]! + 20 * (random() + random())
  }
  const made = sharp(raw, { raw: { width, height, channels: 3 } }).jpeg({ quality: 88, progressive })
  return new Uint8Array(await made.toBuffer())
}

/** Some thousand words, as often as they are needed. */
function longText(bytes: number): Buffer {
  const words = Array.from({ length: 4000 }, (_, at) => ((at * 2654435761) >>> 7).toString(36))
  const text = Buffer.alloc(bytes)
  for (let [at, word] = [0, 1]; at < bytes; word = (word * 48271) % 0x7fffffff)
    at += text.write(`${words[word % words.length]} `, at, 'latin1') || bytes
  return text
}

/** Entries of four megabytes: text that packs well, or what is packed already. */
async function archive(isText: boolean): Promise<Uint8Array> {
  const zip = new ZipFile()
  for (let entry = 0; entry < 4; entry++)
    zip.addBuffer(isText ? longText(4 * MB) : randomFillSync(Buffer.alloc(4 * MB)), `entry ${entry}`, {
      compress: true,
    })
  zip.end()
  return new Uint8Array(await buffer(zip.outputStream as NodeJS.ReadableStream & AsyncIterable<Uint8Array>))
}

/** A PDF whose pages are packed streams. */
function packedDocument(): Uint8Array {
  const parts: Buffer[] = [Buffer.from('%PDF-1.5\n')]
  const places: number[] = []
  const add = (part: Buffer) => parts.push(part)
  const length = () => parts.reduce((sum, part) => sum + part.length, 0)
  for (let page = 1; page <= 40; page++) {
    const packed = deflateSync(longText(400_000))
    places.push(length())
    add(Buffer.from(`${page} 0 obj\n<< /Length ${packed.length} /Filter /FlateDecode >>\nstream\n`))
    add(packed)
    add(Buffer.from('\nendstream\nendobj\n'))
  }
  const table = length()
  const lines = places.map((place) => `${String(place).padStart(10, '0')} 00000 n \n`).join('')
  add(Buffer.from(`xref\n0 41\n0000000000 65535 f \n${lines}trailer << /Size 41 /Root 1 0 R >>\n`))
  add(Buffer.from(`startxref\n${table}\n%%EOF\n`))
  return new Uint8Array(Buffer.concat(parts))
}

/** FAT32 with so many files in a hundred folders, none of which has content. */
function volumeOf(files: number): Uint8Array {
  const folders = 100
  const perFolder = Math.ceil((files / folders) * 32 + 64)
  const clusters = 70_000 + Math.ceil((folders * perFolder) / 512) + 100
  const tableSectors = Math.ceil((clusters * 4) / 512)
  const dataAt = (32 + tableSectors) * 512
  const bytes = new Uint8Array(dataAt + clusters * 512)
  const view = new DataView(bytes.buffer)
  view.setUint16(11, 512, true)
  bytes.set([1, 32, 0, 1], 13)
  view.setUint32(32, bytes.length / 512, true)
  view.setUint32(36, tableSectors, true)
  view.setUint32(44, 2, true)
  view.setUint16(510, 0xaa55, true)
  let free = 2
  const write = (content: Uint8Array): number => {
    const first = free
    for (let at = 0; at < content.length || at === 0; at += 512, free++) {
      bytes.set(content.subarray(at, at + 512), dataAt + (free - 2) * 512)
      view.setUint32(32 * 512 + free * 4, at + 512 >= content.length ? 0xfffffff : free + 1, true)
    }
    return first
  }
  const entry = (name: string, attributes: number, cluster: number, size: number) => {
    const one = new Uint8Array(32)
    for (let at = 0; at < 11; at++) one[at] = name.padEnd(11).charCodeAt(at)
    const own = new DataView(one.buffer)
    one[11] = attributes
    own.setUint16(20, cluster >>> 16, true)
    own.setUint16(22, 0x6000, true)
    own.setUint16(24, 0x5d21, true)
    own.setUint16(26, cluster & 0xffff, true)
    own.setUint32(28, size, true)
    return one
  }
  write(new Uint8Array(folders * 32))
  const all = new Uint8Array(folders * 32)
  for (let index = 0; index < folders; index++) {
    const content = new Uint8Array(perFolder)
    for (let file = 0; file < files / folders; file++)
      content.set(entry(`${String(file).padStart(8, '0')}DAT`, 0x20, 0, 0), file * 32)
    all.set(entry(`FOLDER${index}`, 0x10, write(content), 0), index * 32)
  }
  bytes.set(all.subarray(0, 512), dataAt)
  // The root continues in the clusters that it was given first.
  for (let at = 512; at < all.length; at += 512) bytes.set(all.subarray(at, at + 512), dataAt + at)
  return bytes
}

try {
  const mixed = imageBytes('camera-card')
  const images = {
    noise: image('noise.img', 1024 * MB, (block) => randomFillSync(block)),
    zeros: image('zeros.img', 1024 * MB, () => {}),
    mixed: image('mixed.img', 1024 * MB, (block, at) => {
      if ((at / BLOCK) % 4 === 0) randomFillSync(block)
      else block.set(mixed.subarray(0, BLOCK))
    }),
  }
  for (const [name, path] of Object.entries(images)) {
    read(path)
    const ratios: number[] = []
    let found = 0
    for (let round = 0; round < ROUNDS; round++) {
      const plain = timed(() => read(path))
      const deep = timed(() => {
        found = scan(path)
      })
      ratios.push(plain / deep)
    }
    say(`deep scan of 1 GB ${name}: ${median(ratios).toFixed(2)} of a plain read loop, ${found} found`)
  }
  await perFormat(median(Array.from({ length: 3 }, () => timed(() => read(images.noise)))))
  const volume = volumeOf(100_000)
  const source = bytesSource(volume)
  const times: number[] = []
  let items = 0
  for (let round = 0; round < 3; round++)
    times.push(
      timed(() => {
        items = 0
        for (const step of quickPass(source, findVolumes(source).volumes[0]!)) items += step.items.length
      }),
    )
  const unit = median(Array.from({ length: 3 }, () => timed(() => read(images.zeros))))
  say(
    `quick pass of ${items} records: ${(median(times) / 1000).toFixed(2)} s, ${(median(times) / unit).toFixed(1)} times a plain read of 1 GB`,
  )
  for (const [name, bytes] of [
    ['1 GB', 1024 * MB],
    ['16 GB', 16 * 1024 * MB],
  ] as const) {
    const path = join(folder, 'sparse.img')
    writeFileSync(path, '')
    truncateSync(path, bytes)
    scan(path)
    say(`memory after ${name} that was never written: ${Math.round(process.memoryUsage().rss / MB)} MB`)
  }
} finally {
  rmSync(folder, { recursive: true })
}
