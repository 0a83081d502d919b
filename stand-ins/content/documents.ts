import { ZipFile } from 'yazl'

const utf8 = (text: string) => new TextEncoder().encode(text)
const escaped = (text: string) => text.replace(/[<>&"]/g, (letter) => `&#${letter.charCodeAt(0)};`)

/** A page of text as a PDF file. */
export function pdf(lines: readonly string[]): Uint8Array {
  const shown = lines.map((line) => `(${line.replace(/[\\()]/g, (letter) => `\\${letter}`)}) Tj T*`).join('\n')
  const stream = `BT /F1 14 Tf 60 780 Td 20 TL\n${shown}\nET`
  const objects = [
    '<< /Type /Catalog /Pages 2 0 R >>',
    '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
    '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Contents 4 0 R /Resources << /Font << /F1 5 0 R >> >> >>',
    `<< /Length ${stream.length} >>\nstream\n${stream}\nendstream`,
    '<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>',
  ]
  let text = '%PDF-1.4\n'
  const offsets = objects.map((object, at) => {
    const offset = text.length
    text += `${at + 1} 0 obj\n${object}\nendobj\n`
    return offset
  })
  const table = offsets.map((offset) => `${String(offset).padStart(10, '0')} 00000 n \n`).join('')
  text += `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${table}trailer << /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${text.length}\n%%EOF\n`
  return utf8(text)
}

async function zipped(files: Record<string, string>): Promise<Uint8Array> {
  const zip = new ZipFile()
  for (const [name, text] of Object.entries(files))
    zip.addBuffer(Buffer.from(text), name, { mtime: new Date(Date.UTC(2026, 0, 1)) })
  zip.end()
  const parts: Buffer[] = []
  for await (const part of zip.outputStream) parts.push(part as Buffer)
  return new Uint8Array(Buffer.concat(parts))
}

const XML = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>'
const types = (overrides: string) =>
  `${XML}<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/>${overrides}</Types>`
const relation = (target: string, type = 'officeDocument') =>
  `${XML}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/${type}" Target="${target}"/></Relationships>`

/** A text document (ISO/IEC 29500, WordprocessingML). */
export function textDocument(paragraphs: readonly string[]): Promise<Uint8Array> {
  const body = paragraphs
    .map((line) => `<w:p><w:r><w:t xml:space="preserve">${escaped(line)}</w:t></w:r></w:p>`)
    .join('')
  return zipped({
    '[Content_Types].xml': types(
      '<Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/>',
    ),
    '_rels/.rels': relation('word/document.xml'),
    'word/document.xml': `${XML}<w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:body>${body}</w:body></w:document>`,
  })
}

/** A sheet (ISO/IEC 29500, SpreadsheetML). */
export function sheet(rows: readonly (readonly (string | number)[])[]): Promise<Uint8Array> {
  const cells = rows
    .map(
      (row, at) =>
        `<row r="${at + 1}">${row
          .map((cell, column) => {
            const place = `${String.fromCharCode(65 + column)}${at + 1}`
            return typeof cell === 'number'
              ? `<c r="${place}"><v>${cell}</v></c>`
              : `<c r="${place}" t="inlineStr"><is><t>${escaped(cell)}</t></is></c>`
          })
          .join('')}</row>`,
    )
    .join('')
  return zipped({
    '[Content_Types].xml': types(
      '<Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/>',
    ),
    '_rels/.rels': relation('xl/workbook.xml'),
    'xl/workbook.xml': `${XML}<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="Sheet" sheetId="1" r:id="rId1"/></sheets></workbook>`,
    'xl/_rels/workbook.xml.rels': relation('worksheets/sheet1.xml', 'worksheet'),
    'xl/worksheets/sheet1.xml': `${XML}<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>${cells}</sheetData></worksheet>`,
  })
}
