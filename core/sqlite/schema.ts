/** The affinity of a column (SQLite data types, section 3.1). */
export type Affinity = 'integer' | 'text' | 'blob' | 'real' | 'numeric'

export interface Column {
  readonly name: string
  readonly affinity: Affinity
  readonly isNotNull: boolean
  /** the default that a record has which is older than the column */
  readonly otherwise: null | number | string
}

/** A table as its CREATE statement has it. Generated columns that are not stored are left out. */
export interface TableSchema {
  readonly name: string
  readonly columns: readonly Column[]
  /** position of the column that aliases the row id; -1 where there is none */
  readonly rowidColumn: number
  /** for WITHOUT ROWID tables: the positions of the columns in stored order, primary key first */
  readonly storedOrder: readonly number[] | null
  /** how many of the stored columns are its primary key; 0 for a table that keeps row ids */
  readonly keyColumns: number
  readonly root: number
}

/** A token of a statement: a word, a quoted name, a text, a bracket or a comma. */
interface Token {
  readonly text: string
  readonly isName: boolean
}

const TOKEN =
  /\s+|--[^\n]*|\/\*[\s\S]*?(?:\*\/|$)|"((?:[^"]|"")*)"|`((?:[^`]|``)*)`|\[([^\]]*)\]|'((?:[^']|'')*)'|[A-Za-z_\u0080-\uffff][\w$\u0080-\uffff]*|[+-]?\d[\w.]*|./g

function tokensOf(sql: string): Token[] {
  const tokens: Token[] = []
  for (const match of sql.matchAll(TOKEN)) {
    const [all, double, back, square, single] = match
    if (/^(\s|--|\/\*)/.test(all)) continue
    const quoted = double?.replaceAll('""', '"') ?? back?.replaceAll('``', '`') ?? square
    if (quoted !== undefined) tokens.push({ text: quoted, isName: true })
    else if (single !== undefined) tokens.push({ text: `'${single}`, isName: false })
    else tokens.push({ text: all, isName: /^[A-Za-z_\u0080-\uffff]/.test(all) })
  }
  return tokens
}

const CONSTRAINTS = [
  'constraint',
  'primary',
  'not',
  'null',
  'unique',
  'check',
  'default',
  'collate',
  'references',
  'generated',
  'as',
]
const TABLE_CONSTRAINTS = ['constraint', 'primary', 'unique', 'check', 'foreign']

/** Reads a CREATE TABLE statement; null where it is another one, or that of a virtual table. */
export function readCreateTable(sql: string, root: number): TableSchema | null {
  const tokens = tokensOf(sql)
  const words = tokens.map((token) => token.text.toLowerCase())
  const open = words.indexOf('(')
  if (
    words[0] !== 'create' ||
    !words.slice(1, 3).includes('table') ||
    open < 3 ||
    (words.includes('virtual') && words.indexOf('virtual') < open)
  )
    return null
  const { parts, end } = partsOf(tokens, open)
  const columns: (Column & { readonly isRowid: boolean; readonly isStored: boolean; readonly isKey: boolean })[] = []
  let key: string[] = []
  for (const part of parts) {
    const first = part[0]?.text.toLowerCase()
    if (first !== undefined && part[0]!.isName && TABLE_CONSTRAINTS.includes(first) && columns.length > 0) {
      const at = part.findIndex((token) => token.text.toLowerCase() === 'primary')
      if (at >= 0)
        key = partsOf(
          part,
          part.findIndex((token) => token.text === '('),
        ).parts.map((one) => nameOf(one[0]))
    } else if (first !== undefined) columns.push(columnOf(part))
  }
  const stored = columns.filter((column) => column.isStored)
  const isWithoutRowid = words.slice(end).join(' ').includes('without rowid')
  if (key.length === 0) key = stored.filter((column) => column.isKey).map((column) => column.name)
  const keyed = key.flatMap((name) => {
    const at = stored.findIndex((column) => column.name.toLowerCase() === name.toLowerCase())
    return at < 0 ? [] : [at]
  })
  const alone = keyed.length === 1 ? stored[keyed[0]!]! : null
  return {
    name: tokens[open - 1]!.text,
    columns: stored.map(({ name, affinity, isNotNull, otherwise }, at) => ({
      name,
      affinity,
      // The key of a WITHOUT ROWID table is never null (SQLite, WITHOUT ROWID, section 2).
      isNotNull: isNotNull || (isWithoutRowid && keyed.includes(at)),
      otherwise,
    })),
    rowidColumn: !isWithoutRowid && alone?.isRowid ? keyed[0]! : -1,
    storedOrder: isWithoutRowid
      ? [...keyed, ...stored.keys()].filter((at, place, all) => all.indexOf(at) === place)
      : null,
    keyColumns: isWithoutRowid ? new Set(keyed).size : 0,
    root,
  }
}

const nameOf = (token: Token | undefined) => (token?.text ?? '').replace(/^'/, '')

/** The comma-separated parts of a bracket, and the position after its end. */
function partsOf(tokens: readonly Token[], open: number): { parts: Token[][]; end: number } {
  const parts: Token[][] = [[]]
  let depth = 0
  if (open < 0) return { parts: [], end: tokens.length }
  for (let at = open; at < tokens.length; at++) {
    const { text, isName } = tokens[at]!
    if (text === '(' && !isName) depth++
    if (text === ')' && !isName) depth--
    if (depth === 0) return { parts: parts.filter((part) => part.length > 0), end: at + 1 }
    if (at === open) continue
    if (text === ',' && depth === 1 && !isName) parts.push([])
    else parts.at(-1)!.push(tokens[at]!)
  }
  return { parts: parts.filter((part) => part.length > 0), end: tokens.length }
}

function columnOf(part: readonly Token[]) {
  const words = part.map((token) => token.text.toLowerCase())
  const from = words.findIndex((word, at) => at > 0 && CONSTRAINTS.includes(word))
  const typeEnd = from < 0 ? part.length : from
  const declared = words.slice(1, typeEnd).join(' ')
  const rest = words.slice(typeEnd)
  const said = rest.join(' ')
  const fallback = rest.indexOf('default')
  const isGenerated =
    rest.includes('as') && !(fallback >= 0 && fallback < rest.indexOf('as') && !rest.includes('generated'))
  return {
    name: nameOf(part[0]),
    affinity: affinityOf(declared),
    isNotNull: /\bnot null\b/.test(said),
    otherwise: fallback < 0 ? null : literal(part[typeEnd + fallback + 1]?.text, part[typeEnd + fallback + 2]?.text),
    isKey: /\bprimary key\b/.test(said),
    isRowid: declared === 'integer' && !/\bprimary key desc\b/.test(said),
    isStored: !isGenerated || rest.includes('stored'),
  }
}

function literal(text: string | undefined, next: string | undefined): null | number | string {
  if (text === undefined) return null
  if (text.startsWith("'")) return text.slice(1).replaceAll("''", "'")
  if ((text === '-' || text === '+') && next !== undefined) return Number(next) * (text === '-' ? -1 : 1)
  const number = Number(text)
  if (text !== '' && !Number.isNaN(number)) return number
  if (/^true$/i.test(text)) return 1
  return /^false$/i.test(text) ? 0 : null
}

/** The affinity of a declared type, by the first rule that fits. */
export function affinityOf(declared: string): Affinity {
  if (/int/i.test(declared)) return 'integer'
  if (/char|clob|text/i.test(declared)) return 'text'
  if (declared === '' || /blob/i.test(declared)) return 'blob'
  return /real|floa|doub/i.test(declared) ? 'real' : 'numeric'
}

/** The columns of a table in the order in which its records keep them. */
export const storedColumns = ({ columns, storedOrder }: TableSchema): readonly Column[] =>
  storedOrder ? storedOrder.map((at) => columns[at]!) : columns
