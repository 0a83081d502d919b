import { createWriteStream, mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { deflateRawSync } from 'node:zlib'
import { ZipFile } from 'yazl'
import { crc32 } from '../../core/sources/checksums'

const PACKAGE = 'http://schemas.openxmlformats.org/package/2006/'
const OFFICE = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships'
const part = (name: string, type: string) =>
  `<Override PartName="${name}" ContentType="application/vnd.openxmlformats-officedocument.${type}+xml"/>`
const types = (parts: string) =>
  `<?xml version="1.0"?><Types xmlns="${PACKAGE}content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/>${parts}</Types>`
const rels = (target: string, type: string) =>
  `<?xml version="1.0"?><Relationships xmlns="${PACKAGE}relationships"><Relationship Id="rId1" Type="${OFFICE}/${type}" Target="${target}"/></Relationships>`

async function zipped(path: string, files: Record<string, string>): Promise<void> {
  const zip = new ZipFile()
  for (const [name, text] of Object.entries(files)) zip.addBuffer(Buffer.from(text), name)
  zip.end()
  await pipeline(zip.outputStream, createWriteStream(path))
}

/** A sheet of little more than a kilobyte with a cell in its first corner and one in its last. */
export const farCells = (path: string) =>
  zipped(path, {
    '[Content_Types].xml': types(
      part('/xl/workbook.xml', 'spreadsheetml.sheet.main') +
        part('/xl/worksheets/sheet1.xml', 'spreadsheetml.worksheet'),
    ),
    '_rels/.rels': rels('xl/workbook.xml', 'officeDocument'),
    'xl/workbook.xml': `<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="${OFFICE}"><sheets><sheet name="a" sheetId="1" r:id="rId1"/></sheets></workbook>`,
    'xl/_rels/workbook.xml.rels': rels('worksheets/sheet1.xml', 'worksheet'),
    'xl/worksheets/sheet1.xml':
      '<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><dimension ref="A1:XFD1048576"/><sheetData><row r="1"><c r="A1"><v>1</v></c></row><row r="1048576"><c r="XFD1048576"><v>2</v></c></row></sheetData></worksheet>',
  })

/** A document of so many paragraphs, which packs to nearly nothing. */
export const manyParagraphs = (path: string, count: number) =>
  zipped(path, {
    '[Content_Types].xml': types(part('/word/document.xml', 'wordprocessingml.document.main')),
    '_rels/.rels': rels('word/document.xml', 'officeDocument'),
    'word/document.xml': `<w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:body>${'<w:p><w:r><w:t>weir</w:t></w:r></w:p>'.repeat(count)}</w:body></w:document>`,
  })

/** A document of so many megabytes of one letter. */
export const oneLetter = (path: string, megabytes: number) =>
  zipped(path, {
    '[Content_Types].xml': types(part('/word/document.xml', 'wordprocessingml.document.main')),
    '_rels/.rels': rels('word/document.xml', 'officeDocument'),
    'word/document.xml': `<w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:body><w:p><w:r><w:t>${'w'.repeat(megabytes << 20)}</w:t></w:r></w:p></w:body></w:document>`,
  })

/** The head of a picture that says it has so many pixels on each side, with hardly any data (PNG, 11.2.2). */
export function hugePicture(path: string, side: number): void {
  const chunk = (name: string, data: Buffer) => {
    const body = Buffer.concat([Buffer.from(name, 'latin1'), data])
    const sum = Buffer.alloc(4)
    sum.writeUInt32BE(crc32(body) >>> 0)
    const length = Buffer.alloc(4)
    length.writeUInt32BE(data.length)
    return Buffer.concat([length, body, sum])
  }
  const head = Buffer.alloc(13)
  head.writeUInt32BE(side, 0)
  head.writeUInt32BE(side, 4)
  head[8] = 8
  head[9] = 2
  const mark = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])
  writeFileSync(
    path,
    Buffer.concat([
      mark,
      chunk('IHDR', head),
      chunk('IDAT', deflateRawSync(Buffer.alloc(1000))),
      chunk('IEND', Buffer.alloc(0)),
    ]),
  )
}

/** A zip archive that lost its directory: so many entries, each of which unpacks to so many megabytes of zeros. */
export function bombWithoutDirectory(path: string, entries: number, megabytes: number): void {
  const zeros = Buffer.alloc(megabytes << 20)
  const packed = deflateRawSync(zeros, { level: 9 })
  const sum = crc32(zeros) >>> 0
  const parts: Buffer[] = []
  for (let entry = 0; entry < entries; entry++) {
    const name = Buffer.from(`zeros-${entry}.bin`)
    const head = Buffer.alloc(30)
    head.writeUInt32LE(0x04034b50, 0)
    head.writeUInt16LE(20, 4)
    head.writeUInt16LE(8, 8)
    head.writeUInt32LE(sum, 14)
    head.writeUInt32LE(packed.length, 18)
    head.writeUInt32LE(zeros.length, 22)
    head.writeUInt16LE(name.length, 26)
    parts.push(head, name, packed)
  }
  writeFileSync(path, Buffer.concat(parts))
}

/** A folder with so many empty files. */
export function crowdedFolder(path: string, count: number): void {
  for (let at = 0; at < count; at++) {
    const folder = join(path, String(Math.floor(at / 10_000)))
    if (at % 10_000 === 0) mkdirSync(folder, { recursive: true })
    writeFileSync(join(folder, `${at}.txt`), '')
  }
}
