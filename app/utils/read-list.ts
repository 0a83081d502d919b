import { parse } from 'csv-parse/browser/esm/sync'

/** A list out of a sheet: its first line, and the lines below it. */
export interface ReadList {
  readonly headers: readonly string[]
  readonly lines: readonly (readonly string[])[]
}

/** The largest list, in bytes. */
export const MAX_LIST_BYTES = 3_000_000

/** Text of bytes: UTF-8 where it is that, otherwise as older sheets write it. */
function textOf(bytes: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    return new TextDecoder('windows-1252').decode(bytes)
  }
}

/** The sign between cells: the one that the first line has most of. */
function delimiterOf(text: string): string {
  const [first = ''] = text.split(/\r?\n/, 1)
  const count = (sign: string) => first.split(sign).length
  return [',', ';', '\t'].sort((one, other) => count(other) - count(one))[0]!
}

/** Reads a list (CSV, RFC 4180; commas, semicolons or tabs). Throws an Error in plain words where it cannot be read. */
export function readList(bytes: Uint8Array): ReadList {
  if (bytes.length > MAX_LIST_BYTES) throw new Error(`The list is larger than ${MAX_LIST_BYTES / 1_000_000} MB.`)
  const text = textOf(bytes).replace(/^\uFEFF/, '')
  let cells: string[][]
  try {
    cells = parse(text, {
      delimiter: delimiterOf(text),
      relax_column_count: true,
      skip_empty_lines: true,
    }) as string[][]
  } catch (error) {
    throw new Error(`The list cannot be read: ${(error as Error).message}`, { cause: error })
  }
  const [headers, ...lines] = cells
  if (!headers || lines.length === 0)
    throw new Error('The list has no line below its first one, which names the columns.')
  return { headers, lines: lines.filter((line) => line.some((text) => text.trim() !== '')) }
}
