import { DEVICE_KIND_WORDS, PLATFORM_WORDS } from '../cases/telling/words'
import { KnownModel } from './models'
import { DISCARD_WORDS, ENCRYPTION_WORDS, STORAGE_WORDS } from './model-words'

/** The columns of a list of makers and models, in the order in which they are written. */
export const MODEL_COLUMNS = ['make', 'kind', 'platform', 'storage', 'encryption', 'discard'] as const
type Column = (typeof MODEL_COLUMNS)[number]

const WORDS: Record<Exclude<Column, 'make'>, Record<string, string>> = {
  kind: DEVICE_KIND_WORDS,
  platform: PLATFORM_WORDS,
  storage: STORAGE_WORDS,
  encryption: ENCRYPTION_WORDS,
  discard: DISCARD_WORDS,
}

/** The lines of a list of makers and models; what is not known is empty. */
export const modelLines = (models: readonly KnownModel[]): string[][] =>
  models.map((model) => MODEL_COLUMNS.map((column) => model[column] ?? ''))

export type ReadModels =
  { readonly ok: true; readonly models: KnownModel[] } | { readonly ok: false; readonly faults: string[] }

/** Reads a list of makers and models; a cell holds a word of the program or the words on the screen. Faults name their line, from 2. */
export function readModels(headers: readonly string[], lines: readonly (readonly string[])[]): ReadModels {
  const at = (column: Column) => headers.findIndex((header) => header.trim().toLowerCase() === column)
  if (at('make') < 0) return { ok: false, faults: ['No column is called “make”.'] }
  const faults: string[] = []
  const models = lines.flatMap((cells, index) => {
    const model: Record<string, string> = {}
    for (const column of MODEL_COLUMNS) {
      const typed = cells[at(column)]?.trim() ?? ''
      if (typed === '') continue
      const word = column === 'make' ? typed : wordOf(column, typed)
      if (word === null) faults.push(`Line ${index + 2}: “${typed}” is no ${column}.`)
      else model[column] = word
    }
    const read = KnownModel.safeParse(model)
    if (!read.success) faults.push(`Line ${index + 2}: the make is missing or too short.`)
    return read.success ? [read.data] : []
  })
  return faults.length > 0 ? { ok: false, faults: [...new Set(faults)] } : { ok: true, models }
}

function wordOf(column: Exclude<Column, 'make'>, typed: string): string | null {
  const said = typed.toLowerCase()
  const found = Object.entries(WORDS[column]).find(([key, words]) => key === said || words.toLowerCase() === said)
  return found?.[0] ?? null
}
