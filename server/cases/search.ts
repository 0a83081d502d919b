import { eq, inArray, sql, type SQL } from 'drizzle-orm'
import { Case } from '../../core/cases/shape/case'
import { textsOf } from '../../core/cases/facts/texts'
import type { AnswerContext } from '../../core/cases/telling/answering'
import { historyWords } from '../../core/cases/telling/history'
import { deviceWords, STATE_WORDS } from '../../core/cases/telling/words'
import type { SearchAnswer, SearchedCase, SearchMatch } from '../../core/search/answers'
import { excerpt } from '../../core/search/marks'
import { isSearchable, matchQuery, numberForms, soughtNumber, soughtWords } from '../../core/search/query'
import { may, type Role } from '../../core/people/person'
import { known } from '../../core/cases/shape/fact'
import { entryOf } from '../db/history/entries'
import type { Database } from '../db/open'
import { cases, clients, shelfItems } from '../db/tables'
import { wantedWords } from './summary'
import { seesStopped } from './visible'

const MAX_CASES = 20
const MAX_CLIENTS = 5
/** Matches of one case that are listed. */
const MAX_MATCHES = 3
/** Rows of each index that are looked at, the newest first. */
const MAX_ROWS = 240

/** A row that an index found, and the case that it belongs to. */
interface Row {
  readonly id: number
  readonly caseId: number
}

/**
 * Clients and cases in which every sought word begins a word: in one text of a case, in one file name on its shelf, or in one
 * entry of its history. Part of a name or a number is enough. Cases that the role does not see are left out, and so are file
 * names and what was done at the bench for those who do not work there.
 */
export function search(database: Database, typed: string, role: Role, context: AnswerContext): SearchAnswer {
  const query = matchQuery(typed)
  if (query === null || !isSearchable(typed)) return { clients: [], cases: [], hasMore: false }
  const number = soughtNumber(typed)
  const forms = number === null ? [] : numberForms(number)
  const inPart = `parts : (${forms.length === 0 ? query : forms.map((form) => `"${form}"*`).join(' OR ')})`
  const seen = seesStopped(role) ? sql`` : sql`and not cases.is_stopped`
  const inCases = (match: string) =>
    rowsOf(
      database,
      sql`select search_cases.rowid as id, search_cases.rowid as caseId from search_cases join cases on cases.id = search_cases.rowid
        where search_cases match ${match} ${seen} order by search_cases.rowid desc limit ${MAX_ROWS}`,
    )
  const files = may(role, 'work')
    ? rowsOf(
        database,
        sql`select search_files.rowid as id, shelf_items.case_id as caseId from search_files
          join shelf_items on shelf_items.id = search_files.rowid join cases on cases.id = shelf_items.case_id
          where search_files match ${query} ${seen} order by search_files.rowid desc limit ${MAX_ROWS}`,
      )
    : []
  const entries = rowsOf(
    database,
    sql`select search_history.rowid as id, history.case_id as caseId from search_history
      join history on history.id = search_history.rowid join cases on cases.id = history.case_id
      where search_history match ${query} ${seen} ${may(role, 'work') ? sql`` : sql`and history.kind != 'bench'`} order by search_history.rowid desc limit ${MAX_ROWS}`,
  )
  const named = inCases(`{client parts} : (${query}) OR ${inPart}`)
  const found = [named, inCases(`{code thing} : (${query})`), inCases(`{code thing note} : (${query})`), files, entries]
  const order = [...new Set(found.flat().map(({ caseId }) => caseId))]
  const shown = order.slice(0, MAX_CASES)
  const bodies = new Map(
    shown.length === 0
      ? []
      : database
          .select({ id: cases.id, body: cases.body })
          .from(cases)
          .where(inArray(cases.id, shown))
          .all()
          .map(({ id, body }) => [id, body]),
  )
  const words = [...soughtWords(typed), ...forms]
  const of = (rows: readonly Row[], caseId: number) => rows.filter((row) => row.caseId === caseId).map(({ id }) => id)
  return {
    clients: clientsOf(
      database,
      named.map(({ caseId }) => caseId),
      role,
    ),
    cases: shown.map((id) =>
      searched(database, id, bodies.get(id)!, words, { files: of(files, id), entries: of(entries, id) }, context),
    ),
    hasMore: order.length > shown.length,
  }
}

const rowsOf = (database: Database, query: SQL): Row[] => database.all<Row>(query)

/** The cards of the clients of these cases, each with its number of cases. */
function clientsOf(database: Database, caseIds: readonly number[], role: Role): SearchAnswer['clients'] {
  if (caseIds.length === 0) return []
  const counted = seesStopped(role) ? sql`` : sql`and not own.is_stopped`
  return database
    .selectDistinct({
      id: clients.id,
      name: clients.name,
      phone: clients.phone,
      mail: clients.mail,
      cases: sql<number>`(select count(*) from cases as own where own.client_id = clients.id ${counted})`,
    })
    .from(cases)
    .innerJoin(clients, eq(clients.id, cases.clientId))
    .where(inArray(cases.id, [...caseIds]))
    .orderBy(sql`clients.updated_at desc`)
    .limit(MAX_CLIENTS)
    .all()
}

function searched(
  database: Database,
  id: number,
  body: string,
  words: readonly string[],
  { files, entries }: { readonly files: readonly number[]; readonly entries: readonly number[] },
  context: AnswerContext,
): SearchedCase {
  const ofCase = Case.parse(JSON.parse(body))
  const { client, code, state } = ofCase
  const texts = [
    { where: 'case', text: code },
    ...textsOf(ofCase).map(({ rule, text }) => ({ where: rule.words, text })),
  ]
  const matches: SearchMatch[] = []
  const add = (match: SearchMatch | null) => {
    // A text that repeats another, as the history repeats each fact, says nothing new.
    const repeats = matches.some((one) => match && (one.text.includes(match.text) || match.text.includes(one.text)))
    if (match && !repeats) matches.push(match)
  }
  for (const { where, text } of texts) add(matchIn(where, text, words))
  for (const file of files.slice(0, MAX_MATCHES)) add(fileMatch(database, file, words))
  // Entries are encrypted, and most repeat what was found already.
  for (const entry of entries.slice(0, MAX_MATCHES))
    if (matches.length < MAX_MATCHES) add(entryMatch(database, id, entry, words, context))
  const total = matches.length + Math.max(0, files.length - MAX_MATCHES)
  return {
    code,
    client: known(client.name) ? client.name : 'No name yet',
    what: [wantedWords(ofCase), ...ofCase.devices.slice(0, 1).map(deviceWords)].join(' · '),
    state: STATE_WORDS[state.name],
    matches: matches.slice(0, MAX_MATCHES),
    more: Math.max(0, total - MAX_MATCHES),
  }
}

function matchIn(where: string, text: string, words: readonly string[]): SearchMatch | null {
  const shown = excerpt(text, words)
  return shown && { where, ...shown, marks: shown.marks.map(([from, to]) => [from, to]) }
}

function fileMatch(database: Database, id: number, words: readonly string[]): SearchMatch | null {
  const row = database.select({ path: shelfItems.path }).from(shelfItems).where(eq(shelfItems.id, id)).get()
  return row ? matchIn('file on the shelf', row.path, words) : null
}

function entryMatch(
  database: Database,
  caseId: number,
  id: number,
  words: readonly string[],
  context: AnswerContext,
): SearchMatch | null {
  const entry = entryOf(database, caseId, id)
  return entry ? matchIn('history', historyWords(entry, context), words) : null
}
