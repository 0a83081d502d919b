import { open, type FileHandle } from 'node:fs/promises'
import { cleanName } from '../../core/archives/entry-name'
import { paxRecords, tarHeader, textAt } from '../../core/archives/tar-header'
import { MAX_ENTRIES, type Container, type Entry } from '../../core/archives/container'
import { partsOf } from './parts'

const BLOCK = 512
/** The longest long name or block of extended attributes that is read. */
const MAX_NAME_BYTES = 65_536

interface TarEntry extends Entry {
  readonly at: number
}

/** Opens a tar archive (ustar, pax, long names) read only; a truncated one gives the entries before the cut. */
export async function openTar(path: string): Promise<Container> {
  const file = await open(path, 'r')
  const { size } = await file.stat()
  const { entries, warnings } = await walk(file, size)
  if (entries.length === 0 && warnings.length > 0) {
    await file.close()
    throw new Error(`is not a readable tar archive (${warnings[0]})`)
  }
  const byName = new Map(entries.map((entry) => [entry.name, entry]))
  return {
    entries: [...byName.values()],
    warnings,
    async *read(name) {
      const entry = byName.get(name)
      if (!entry) throw new Error(`${name} is not in the archive`)
      yield* partsOf(file, entry.at, entry.bytes)
    },
    close: () => file.close(),
  }
}

const KIND_WORDS: Record<string, string> = {
  '1': 'a link',
  '2': 'a link',
  '3': 'a device',
  '4': 'a device',
  '6': 'a pipe',
}

async function walk(file: FileHandle, size: number): Promise<{ entries: TarEntry[]; warnings: string[] }> {
  const entries: TarEntry[] = []
  const warnings: string[] = []
  let at = 0
  let long: string | null = null
  let pax: ReadonlyMap<string, string> = new Map()
  while (at + BLOCK <= size && entries.length < MAX_ENTRIES) {
    const header = tarHeader(await bytesAt(file, at, BLOCK))
    if (header === 'end') break
    if (header === null) {
      warnings.push(`the archive is damaged at byte ${at}; everything after that is left out`)
      break
    }
    const from = at + BLOCK
    const told = pax.get('size')
    const bytes = told !== undefined && /^\d{1,15}$/.test(told) ? Number(told) : header.bytes
    at = from + Math.ceil(bytes / BLOCK) * BLOCK
    if (['L', 'x', 'g', 'K'].includes(header.flag)) {
      if (bytes > MAX_NAME_BYTES || from + bytes > size) warnings.push('a name is too long and was ignored')
      else if (header.flag === 'x') pax = paxRecords(await bytesAt(file, from, bytes))
      else if (header.flag === 'L') long = textAt(await bytesAt(file, from, bytes), 0, bytes)
      continue
    }
    const name = pax.get('path') ?? long ?? header.name
    long = null
    pax = new Map()
    if (header.flag === '5' || name.endsWith('/')) continue
    const shown = JSON.stringify(name.slice(0, 80))
    if (header.flag !== '0' && header.flag !== '7')
      warnings.push(`${shown} is left out: it is ${KIND_WORDS[header.flag] ?? 'no file'}`)
    else if (cleanName(name) === null) warnings.push(`${shown} is left out: its name leads outside the archive`)
    else if (from + bytes > size) warnings.push(`${shown} is left out: the archive ends inside it`)
    else entries.push({ name: cleanName(name)!, bytes, changed: header.changedSeconds * 1000, at: from })
  }
  return { entries, warnings }
}

async function bytesAt(file: FileHandle, at: number, length: number): Promise<Uint8Array> {
  const { buffer, bytesRead } = await file.read(Buffer.alloc(length), 0, length, at)
  return buffer.subarray(0, bytesRead)
}
