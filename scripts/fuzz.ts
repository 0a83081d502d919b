// npm run fuzz: mutated inputs for every parser of media, with what went wrong and the seed that repeats it.
import { FORMATS, formatOfName } from '../core/files/formats/registry'
import type { FileSystem } from '../core/volumes/filesystems/file-system'
import { LuksFault } from '../core/volumes/luks/header'
import { readHeader } from '../core/volumes/luks/unlock'
import { findVolumes } from '../core/volumes/volumes'
import { readRecords } from '../core/scanning/quick'
import { Reader } from '../core/sources/reader'
import { bytesSource } from '../core/sources/source'
import { sampleBytes } from '../core/testing/format-samples'
import { LOCKED, lockedImage } from '../core/testing/locked-images'
import { fileOf, imageBytes, STRUCTURES, truthOf } from '../core/testing/media-images'
import { chances } from '../stand-ins/content/chance'

const RUNS = Number(process.argv[2] ?? 20_000)
const FIRST_SEED = Number(process.argv[3] ?? 1)
const MAX_MS = 2000
const MAX_GAPS = 100
const MAX_LAYOUTS = 200
const MAX_BYTES = 256 * 1024 * 1024

/** Changes of a few bytes, stretches that are copied, cleared or cut off: written into `bytes`, answers how long it is now. */
function mutate(bytes: Uint8Array, seed: number, from: number, length: number): number {
  const chance = chances(seed)
  const at = () => from + Math.floor(chance() * length)
  for (let change = Math.floor(chance() * 24); change >= 0; change--) {
    const kind = chance()
    const place = at()
    if (kind < 0.5) bytes[place] = [0, 1, 0x7f, 0x80, 0xff][Math.floor(chance() * 5)]!
    else if (kind < 0.75) bytes[place] = bytes[place]! ^ (1 << Math.floor(chance() * 8))
    else if (kind < 0.85)
      bytes.fill(chance() < 0.5 ? 0 : 0xff, place, Math.min(from + length, place + Math.floor(chance() * 64)))
    else bytes.copyWithin(place, at(), Math.min(bytes.length, at() + 32))
  }
  return chance() < 0.2 ? from + Math.floor(chance() * length) + 1 : bytes.length
}

let failures = 0
/** Runs a parser on so many mutated copies of an input; one line for it, and one for each failure. */
function fuzz(
  name: string,
  input: Uint8Array,
  parse: (bytes: Uint8Array) => void,
  [from, length] = [0, input.length],
  runs = RUNS,
) {
  const bytes = input.slice()
  let slowest = 0
  const before = process.memoryUsage().arrayBuffers
  let most = 0
  for (let seed = FIRST_SEED; seed < FIRST_SEED + runs; seed++) {
    const size = mutate(bytes, seed, from, length)
    const began = performance.now()
    try {
      parse(bytes.subarray(0, size))
    } catch (error) {
      failures++
      console.log(`${name}, seed ${seed}: ${(error as Error).stack?.split('\n').slice(0, 3).join(' ')}`)
    }
    const took = performance.now() - began
    slowest = Math.max(slowest, took)
    if (took > MAX_MS) {
      failures++
      console.log(`${name}, seed ${seed}: took ${Math.round(took)} ms`)
    }
    if (seed % 64 === 0) most = Math.max(most, process.memoryUsage().arrayBuffers - before)
    bytes.set(input.subarray(from, from + length), from)
  }
  if (most > MAX_BYTES) {
    failures++
    console.log(`${name}: took ${Math.round(most / 1e6)} MB`)
  }
  console.log(`${name}: ${runs} inputs, slowest ${Math.round(slowest)} ms`)
}

const walk = (bytes: Uint8Array) => {
  for (const format of FORMATS) {
    const told = format.walk(new Reader(bytesSource(bytes)))
    if (told && (told.bytes < 0 || told.bytes > bytes.length))
      throw new Error(`${format.id} tells of ${told.bytes} bytes of ${bytes.length}`)
    let gaps = 0
    for (const { cut, at } of format.gaps?.(new Reader(bytesSource(bytes))) ?? []) {
      if (cut <= 0 || at <= cut) throw new Error(`${format.id} tells of a gap from ${cut} to ${at}`)
      if (++gaps === MAX_GAPS) break
    }
  }
}
for (const { path } of truthOf('two-volumes').files.filter((file) => file.path.startsWith('DCIM')))
  fuzz(`${formatOfName(path)?.id ?? '?'} (${path})`, fileOf('two-volumes', path), walk)

fuzz('ole (minutes.doc)', sampleBytes('minutes.doc'), walk)

/** Traces of other records near an offset, and what they say about files that begin there. */
function followTraces({ traces }: FileSystem, bytes: Uint8Array, near: number) {
  const places: number[] = []
  for (let at = near; at + 512 <= Math.min(bytes.length, near + 1_000_000); at += 512)
    if (traces.begins(bytes, at)) places.push(at)
  for (const file of traces.files(places)) if (file.bytes < 0) throw new Error(`a file of ${file.bytes} bytes`)
  let layouts = 0
  for (const place of places.slice(0, 20))
    for (const { extents } of traces.layouts(places)(place, 4096)) {
      if (extents.some(([, length]) => length <= 0)) throw new Error('a layout without length')
      if (++layouts === MAX_LAYOUTS) return
    }
}

for (const [name, from, length] of STRUCTURES)
  fuzz(
    `volumes of ${name} from ${from}`,
    imageBytes(name),
    (bytes) => {
      for (const { fileSystem } of findVolumes(bytesSource(bytes)).volumes) {
        if (!fileSystem) continue
        readRecords(fileSystem)
        followTraces(fileSystem, bytes, from)
      }
    },
    [from, length],
  )

for (const name of LOCKED)
  fuzz(
    `header of an encrypted volume (${name})`,
    lockedImage(name),
    (bytes) => {
      try {
        readHeader(bytesSource(bytes), [0, bytes.length])
      } catch (error) {
        if (!(error instanceof LuksFault)) throw error
      }
    },
    [0, 32_768],
  )

console.log(failures === 0 ? 'Nothing went wrong.' : `${failures} failures`)
process.exitCode = failures === 0 ? 0 : 1
