import type { Reader } from '../../sources/reader'
import { partial, unverified, type Format, type Walk } from './format'

const HEAD = '\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1'
const END = 0xfffffffa

/** Compound files of older office programs: sectors in chains; the last allocated one gives the end ([MS-CFB], 2). */
export const ole: Format = {
  id: 'ole',
  extensions: ['doc', 'xls', 'ppt', 'msg'],
  signatures: [[0, HEAD]],
  walk(reader) {
    if (!reader.is(0, HEAD) || reader.u16le(28) !== 0xfffe) return null
    const shift = reader.u16le(30)
    if (shift !== 9 && shift !== 12) return null
    const sectorBytes = 2 ** shift
    const tables = tableSectors(reader, sectorBytes)
    if (!tables)
      return partial(kindOf(''), {
        provenTo: 512,
        breaksAt: Math.min(reader.size, sectorBytes * 2),
        why: 'allocation tables are outside the file',
      })
    let last = -1
    for (const [index, table] of tables.entries())
      for (let entry = 0; entry < sectorBytes / 4; entry++)
        if (reader.u32le((table + 1) * sectorBytes + entry * 4) !== 0xffffffff) last = index * (sectorBytes / 4) + entry
    const names = namesOf(reader, sectorBytes)
    const bytes = (last + 2) * sectorBytes
    const kind = kindOf(names)
    if (last < 0 || !names.includes('Root Entry'))
      return partial(kind, {
        provenTo: 512,
        breaksAt: Math.min(reader.size, bytes),
        why: 'directory is missing',
      })
    if (bytes > reader.size) return partial(kind, { provenTo: 512, breaksAt: reader.size, why: 'file is truncated' })
    return unverified(kind, bytes, 'sector allocation tables and directory are present')
  },
}

function tableSectors(reader: Reader, sectorBytes: number): number[] | null {
  const count = reader.u32le(44)
  if (count === 0 || count * sectorBytes > reader.size) return null
  const sectors: number[] = []
  for (let index = 0; index < 109 && sectors.length < count; index++) sectors.push(reader.u32le(76 + index * 4))
  let more = reader.u32le(68)
  for (let guard = 0; more < END && guard < 4096 && sectors.length < count; guard++) {
    const at = (more + 1) * sectorBytes
    for (let index = 0; index < sectorBytes / 4 - 1 && sectors.length < count; index++)
      sectors.push(reader.u32le(at + index * 4))
    more = reader.u32le(at + sectorBytes - 4)
  }
  const isInside =
    sectors.length === count && sectors.every((sector) => reader.has((sector + 1) * sectorBytes, sectorBytes))
  return isInside ? sectors : null
}

/** The names in the first directory sector, which reveal the program that wrote it. */
function namesOf(reader: Reader, sectorBytes: number): string {
  const at = (reader.u32le(48) + 1) * sectorBytes
  const names: string[] = []
  for (let entry = at; entry < at + Math.max(sectorBytes, 512); entry += 128) {
    const length = Math.min(64, reader.u16le(entry + 64))
    let name = ''
    for (let index = 0; index + 2 < length; index += 2) name += String.fromCharCode(reader.u16le(entry + index))
    names.push(name)
  }
  return names.join('|')
}

function kindOf(names: string): Pick<Walk, 'mime' | 'extension' | 'type'> {
  if (names.includes('Workbook') || names.includes('Book'))
    return { mime: 'application/vnd.ms-excel', extension: 'xls', type: 'spreadsheets' }
  if (names.includes('PowerPoint'))
    return { mime: 'application/vnd.ms-powerpoint', extension: 'ppt', type: 'documents' }
  if (names.includes('__properties')) return { mime: 'application/vnd.ms-outlook', extension: 'msg', type: 'mail' }
  if (names.includes('WordDocument')) return { mime: 'application/msword', extension: 'doc', type: 'documents' }
  return { mime: 'application/x-cfb', extension: 'ole', type: 'documents' }
}
