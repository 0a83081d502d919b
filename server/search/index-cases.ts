import { sql } from 'drizzle-orm'
import { Case } from '../../core/cases/shape/case'
import { known } from '../../core/cases/shape/fact'
import { textsOf, type TextPlace } from '../../core/cases/facts/texts'
import { historyWords } from '../../core/cases/telling/history'
import { partsText } from '../../core/search/query'
import { historySince, type Happening } from '../db/history/entries'
import type { Handle } from '../db/history/keys'
import type { Database } from '../db/open'
import { keepSetting, readSetting } from '../db/setting'
import { cases } from '../db/tables'

/** Which words of a case are in the index, and how: a change of it fills the index anew. */
const VERSION = '2'
const KEY = 'search-index'

/** Times and money are not searched for: any zone and currency will do. */
const PLAIN = { zone: 'UTC', now: 0, currency: 'GBP' }

/** Puts the texts of a case into the index, in place of those that were there; in the transaction that stores the case. */
export function indexCase(handle: Handle, id: number, ofCase: Case): void {
  const texts = textsOf(ofCase)
  const of = (place: TextPlace) => texts.flatMap(({ rule, text }) => (rule.place === place ? [text] : [])).join('\n')
  const { name, phone } = ofCase.client
  const parts = partsText(known(name) ? [name] : [], known(phone) ? [phone] : [])
  handle.run(sql`delete from search_cases where rowid = ${id}`)
  handle.run(sql`insert into search_cases (rowid, client, parts, code, thing, note) values (${id}, ${of('client')},
    ${parts}, ${codeText(ofCase.code)}, ${`${of('case')}\n${of('thing')}`}, ${of('note')})`)
}

/** A code and its number without zeros in front: people leave them out. */
const codeText = (code: string) => `${code} ${code.replace(/^.*?0*(\d+)$/, '$1')}`

/** Puts what entries of the history say into the index. `first`: the number of the first of them. */
export function indexHappenings(handle: Handle, first: number, happenings: readonly Happening[]): void {
  happenings.forEach((happening, at) => {
    handle.run(sql`insert into search_history (rowid, says) values (${first + at}, ${historyWords(happening, PLAIN)})`)
  })
}

/** Takes what the entries of a case say out of the index. */
export function forgetHappenings(handle: Handle, caseId: number): void {
  handle.run(sql`delete from search_history where rowid in (select id from history where case_id = ${caseId})`)
}

const TABLES = ['search_cases', 'search_history'] as const

/** Makes a table of the index anew: removing its rows one by one takes a hundred times as long, since each is overwritten. */
function emptied({ $client: client }: Database, table: (typeof TABLES)[number]): void {
  const made = client.prepare('select sql from sqlite_master where name = ?').pluck().get(table) as string
  client.exec(`drop table ${table}; ${made}; insert into ${table}(${table}, rank) values ('secure-delete', 1)`)
}

/** Fills the index of a database that has none, or one of an earlier version. */
export function fillSearchIndex(database: Database): void {
  if (readSetting(database, KEY) === VERSION) return
  database.transaction(
    (handle) => {
      for (const table of TABLES) emptied(database, table)
      for (const { id, body } of handle.select({ id: cases.id, body: cases.body }).from(cases).all()) {
        indexCase(handle, id, Case.parse(JSON.parse(body)))
        for (const entry of historySince(handle, id, 0)) if (!entry.isWiped) indexHappenings(handle, entry.id, [entry])
      }
      keepSetting(handle, KEY, VERSION)
    },
    { behavior: 'immediate' },
  )
}
