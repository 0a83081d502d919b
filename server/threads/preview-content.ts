import chardet from 'chardet'
import { parse } from 'csv-parse/sync'
import mammoth from 'mammoth'
import { readSheet } from 'read-excel-file/node'
import type { Preview } from '../../core/bench/preview'
import { kindOfName } from '../../core/files/kinds'

const MAX_TEXT = 200_000
const MAX_ROWS = 400
const MAX_COLUMNS = 60
const MAX_CELL = 400

/** The preview of a document, a table or a text; never throws, whatever its bytes are. */
export async function contentOf(bytes: Uint8Array, name: string): Promise<Preview> {
  const { preview } = kindOfName(name)
  try {
    if (preview === 'document')
      return cut((await mammoth.extractRawText({ buffer: Buffer.from(bytes) })).value, 'UTF-8')
    if (preview === 'sheet') return table(await readSheet(Buffer.from(bytes)))
    if (preview === 'csv') return csvTable(bytes)
  } catch {
    return textOf(bytes) ?? { as: 'none', why: 'It is damaged, or there is no preview for this type.' }
  }
  return textOf(bytes) ?? { as: 'none', why: 'There is no preview for this type.' }
}

function table(rows: readonly (readonly unknown[])[]): Preview {
  return {
    as: 'table',
    rows: rows
      .slice(0, MAX_ROWS)
      .map((row) =>
        row
          .slice(0, MAX_COLUMNS)
          .map((cell) => (cell === null || cell === undefined ? '' : String(cell).slice(0, MAX_CELL))),
      ),
    isCut: rows.length > MAX_ROWS || rows.some((row) => row.length > MAX_COLUMNS),
  }
}

/** Lines and cells, with any separator (RFC 4180 and its variants). */
function csvTable(bytes: Uint8Array): Preview {
  const decoded = decode(bytes)
  if (!decoded) return { as: 'none', why: 'It is not text.' }
  const rows = parse(decoded.text, {
    bom: true,
    delimiter: separatorOf(decoded.text),
    relax_quotes: true,
    relax_column_count: true,
    skip_empty_lines: true,
    // A truncated text may end inside quotes.
    skip_records_with_error: true,
    to: MAX_ROWS + 1,
  })
  return table(rows)
}

/** The most frequent separator of the first line, outside quotes. */
function separatorOf(text: string): string {
  const first = text.slice(0, text.search(/\r?\n|$/)).replace(/"[^"]*"/g, '')
  const count = (separator: string) => first.split(separator).length
  return [';', '\t', ',', '|'].sort((one, other) => count(other) - count(one))[0]!
}

function textOf(bytes: Uint8Array): Preview | null {
  const decoded = decode(bytes)
  return decoded && cut(decoded.text, decoded.encoding)
}

const cut = (text: string, encoding: string): Preview => ({
  as: 'text',
  text: text.slice(0, MAX_TEXT),
  encoding,
  isCut: text.length > MAX_TEXT,
})

/** Decodes text in a guessed encoding; null where it is no text. */
function decode(bytes: Uint8Array): { text: string; encoding: string } | null {
  const head = bytes.subarray(0, 65_536)
  const guessed = chardet.detect(head) ?? 'UTF-8'
  const isWide = /UTF-(16|32)/.test(guessed)
  if (!isWide && head.includes(0)) return null
  try {
    return { text: new TextDecoder(guessed).decode(bytes.subarray(0, MAX_TEXT * 4)), encoding: guessed }
  } catch {
    return null
  }
}
