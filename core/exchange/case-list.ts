import { z } from 'zod'
import { askingOf } from '../cases/telling/asking'
import { answer, valueWords, type AnswerContext } from '../cases/telling/answering'
import { emptyCase, type Case } from '../cases/shape/case'
import { withFacts, type Change } from '../cases/facts/facts'
import { known } from '../cases/shape/fact'
import { isoOf, type Moment } from '../cases/shape/moment'
import { readTime } from '../cases/telling/saying/times'

/** The facts that a column of a list can hold, with the words by which their columns are recognised. */
const FACT_COLUMNS: Readonly<Record<string, readonly string[]>> = {
  'client.name': ['client', 'customer', 'name', 'who'],
  'client.phone': ['phone', 'telephone', 'mobile', 'tel', 'number'],
  'client.mail': ['mail', 'email', 'e mail'],
  title: ['title', 'subject', 'job'],
  'devices.d1.kind': ['device', 'kind of device', 'device kind'],
  'devices.d1.platform': ['platform', 'family', 'platform family'],
  'devices.d1.make': ['make', 'model', 'maker', 'maker and model'],
  'wanted.w1.type': ['wanted', 'data', 'kind of data', 'data type'],
  'wanted.w1.title': ['in their words', 'wanted title', 'files'],
  'wanted.w1.count': ['count', 'how many', 'items'],
  'wanted.w1.made': ['made', 'items made'],
  'loss.how': ['how', 'loss', 'how lost', 'how it was lost', 'cause', 'problem'],
  'loss.when': ['lost', 'when', 'when lost', 'when it was lost', 'date of loss'],
  'limits.deadline': ['deadline', 'needed by', 'due'],
  'limits.money': ['limit', 'budget', 'can spend', 'price limit'],
}
const OTHER_COLUMNS: Readonly<Record<'logged' | 'note', readonly string[]>> = {
  logged: ['logged', 'date', 'received', 'intake', 'opened'],
  note: ['note', 'notes', 'remark', 'remarks', 'comment', 'comments'],
}
const OTHER_LABELS: Readonly<Record<string, string>> = { logged: 'Logged on', note: 'Note' }
const ALL_COLUMNS = { ...FACT_COLUMNS, ...OTHER_COLUMNS }

/** What a column can be, in the order in which they are offered. */
export const LIST_COLUMNS: readonly { readonly id: string; readonly label: string }[] = Object.keys(ALL_COLUMNS).map(
  (id) => ({ id, label: askingOf(id)?.label ?? OTHER_LABELS[id]! }),
)

/** The most lines of one list. */
export const MAX_LINES = 5000

const cell = z.string().max(4000, 'is longer than 4000 characters')

/** A list as a page sends it: its columns, its lines, and what is to be done with them. */
export const CaseList = z.object({
  columns: z
    .array(z.enum(Object.keys(ALL_COLUMNS) as [string, ...string[]]).nullable())
    .min(1)
    .max(200),
  lines: z.array(z.array(cell).max(200)).min(1, 'is empty').max(MAX_LINES, `has more than ${MAX_LINES} lines`),
  /** false for a dry run */
  writes: z.boolean(),
  leavesOutFaulty: z.boolean().default(false),
})
export type CaseList = z.infer<typeof CaseList>

/** What becomes of each line, and the codes of the cases that were written. */
export const CaseListAnswer = z.object({
  lines: z.array(
    z.object({
      line: z.int(),
      says: z.string(),
      faults: z.array(z.object({ column: z.string(), message: z.string() })),
    }),
  ),
  codes: z.array(z.string()),
})
export type CaseListAnswer = z.infer<typeof CaseListAnswer>

const plain = (header: string) =>
  header
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()

/** What each column probably is, by its header; null where that is not clear. No two columns are taken for the same. */
export function guessColumns(headers: readonly string[]): (string | null)[] {
  const taken = new Set<string>()
  return headers.map((header) => {
    const sought = plain(header)
    const found = LIST_COLUMNS.find(
      ({ id, label }) =>
        !taken.has(id) &&
        (plain(label) === sought ||
          plain(id) === sought ||
          ALL_COLUMNS[id as keyof typeof ALL_COLUMNS].includes(sought)),
    )
    if (found) taken.add(found.id)
    return found?.id ?? null
  })
}

/** A line as a case would have it. */
export interface ReadLine {
  readonly changes: readonly Change[]
  readonly logged: string | null
  readonly note: string | null
  /** the line in a few words */
  readonly says: string
  readonly faults: readonly { readonly column: string; readonly message: string }[]
}

/**
 * Reads one line of a list as people type facts: words of an answer, times, sizes. Every fault of it is returned with the label
 * of its column; nothing is left out in silence.
 */
export function readLine(
  cells: readonly string[],
  columns: readonly (string | null)[],
  context: AnswerContext,
): ReadLine {
  const faults: { column: string; message: string }[] = []
  const changes: Change[] = []
  const empty = emptyCase()
  let logged: string | null = null
  let note: string | null = null
  const given = columns.flatMap((id, at) => {
    const text = (cells[at] ?? '').trim()
    return id === null || text === '' ? [] : [{ id, text: unquoted(text) }]
  })
  for (const { id, text } of given) {
    const fail = (message: string) =>
      faults.push({ column: labelOf(id), message: `“${text.slice(0, 60)}”: ${message}` })
    if (id === 'note') note = text.slice(0, 1000)
    else if (id === 'logged') {
      const read = readTime(text, { now: context.now, zone: context.zone, direction: 'past' })
      if (!read.ok) fail(read.message)
      else if (Date.parse(read.moment.from) > context.now) fail('is in the future')
      else logged = read.moment.from
    } else {
      const read = answer(empty, id, text, context)
      if (read.ok) changes.push(...read.changes)
      else fail(read.message)
    }
  }
  if (cells.length > columns.length && cells.slice(columns.length).some((text) => text.trim() !== ''))
    faults.push({ column: 'line', message: 'has more cells than the list has columns' })
  const facts = joined(changes)
  const set = withFacts(empty, facts)
  if (!set.ok) for (const { path, message } of set.faults) faults.push({ column: labelOf(path), message })
  if (given.length === 0) faults.push({ column: 'line', message: 'says nothing' })
  return { changes: facts, logged, note, says: lineWords(changes, context), faults }
}

const labelOf = (path: string): string => askingOf(path)?.label ?? OTHER_LABELS[path] ?? path

/** What was made safe against formulas in our own lists is read as it was. */
const unquoted = (text: string) => (/^'[=+\-@\t\r]/.test(text) ? text.slice(1) : text)

const lineWords = (changes: readonly Change[], context: AnswerContext): string =>
  changes
    .map(({ fact, is }) => valueWords(fact, is, context))
    .filter(Boolean)
    .slice(0, 5)
    .join(', ')

/** Facts of the same part as one change, since the part does not exist yet. */
function joined(changes: readonly Change[]): Change[] {
  const parts = new Map<string, Record<string, unknown>>()
  const others: Change[] = []
  for (const { fact, is } of changes) {
    const [, part, rest] = /^((?:devices|wanted)\.[a-z]\d+)\.(.+)$/.exec(fact) ?? []
    if (part && rest) parts.set(part, { ...parts.get(part), [rest]: is })
    else others.push({ fact, is })
  }
  return [...others, ...[...parts].map(([fact, is]) => ({ fact, is }))]
}

/** The columns of a list of cases, in the same words in which a list is read. */
export const CASE_LIST_HEADERS = [
  'code',
  ...LIST_COLUMNS.filter(({ id }) => id !== 'note').map(({ label }) => label),
  'state',
  'with',
  'back',
  'to pay',
]

/** The cells of one case, without what only the server knows. */
export function caseCells(ofCase: Case, context: AnswerContext): string[] {
  const [device] = ofCase.devices
  const [set] = ofCase.wanted
  const values: Record<string, unknown> = {
    'client.name': ofCase.client.name,
    'client.phone': ofCase.client.phone,
    'client.mail': ofCase.client.mail,
    title: ofCase.title,
    'devices.d1.kind': device?.kind,
    'devices.d1.platform': device?.platform,
    'devices.d1.make': device?.make,
    'wanted.w1.type': set?.type,
    'wanted.w1.title': set?.title,
    'wanted.w1.count': set?.count,
    'wanted.w1.made': set?.made,
    'loss.how': ofCase.loss.how,
    'loss.when': ofCase.loss.when,
    'limits.deadline': ofCase.limits.deadline,
    'limits.money': ofCase.limits.money,
  }
  return LIST_COLUMNS.filter(({ id }) => id !== 'note').map(({ id }) => {
    if (id === 'logged') return ofCase.logged ?? ''
    const value = values[id]
    if (value === undefined || !known(value)) return ''
    // Times as ISO, so that no reader has to guess; the words of the client stand in the case.
    if (typeof value === 'object' && value !== null) return isoRange(value as Moment)
    return typeof value === 'number' ? String(value) : (valueWords(id, value, context) ?? '')
  })
}

const isoRange = ({ from, to }: Moment) =>
  from === to ? from : `${isoOf(Date.parse(from)).slice(0, 10)} to ${isoOf(Date.parse(to)).slice(0, 10)}`
