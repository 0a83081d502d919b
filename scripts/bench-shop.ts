import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { DAY_MS, isoOf } from '../core/cases/shape/moment'
import { defaultPlaybook } from '../core/playbook/playbook'
import { matchQuery } from '../core/search/query'
import { chanceFrom } from '../core/testing/chance-from'
import { noteHappening } from '../server/cases/rows'
import { renewPlans } from '../server/cases/plans'
import { search } from '../server/cases/search'
import { openCases } from '../server/cases/summaries'
import { logCase } from '../server/cases/writing/log'
import { openDatabase } from '../server/db/open'

/**
 * A shop of many years: how long a search and the counter's data take, in ms, and as a multiple of the bare SQL that finds the
 * same rows, measured in one run. Nothing is asserted.
 */
const CASES = 20_000
const ENTRIES = 200_000
const NOW = Date.UTC(2026, 10, 24, 10, 42)
const playbook = defaultPlaybook()
const random = chanceFrom(7)
const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!
const range = (from: number, to: number) => ({ from: isoOf(NOW - from * DAY_MS), to: isoOf(NOW - to * DAY_MS) })

const FIRST = 'Maud Corin Wilfreda Ennis Jory Ottilie Bram Suda Hedda Piet Agnes Rufus Tamsin Odo Ines Lorcan'.split(
  ' ',
)
const LAST = 'Ashby Carrick Oxley Tarrant Quillon Wray Vane Merrifield Holloway Brandt Osei Lindqvist Pell Rook'.split(
  ' ',
)
const MAKES = 'Korvane Pelloon Ostrel Mirrit Halden Juno'.split(' ')
const SAID = [
  'wants the photos before the wedding',
  'was called, will bring the charger on Friday',
  'listed the gallery bin of the phone',
  'copied 412 items to the shelf, read back',
  'the screen is cracked, touch works',
  'asked for the price again, agreed in words',
]

const folder = mkdtempSync(join(tmpdir(), 'lantern-bench-'))
const database = openDatabase(folder, resolve('server/db/migrations'))
const begun = performance.now()
const together = (count: number, one: (at: number) => void) => {
  for (let from = 0; from < count; from += 500)
    database.$client.transaction(() => {
      for (let at = from; at < Math.min(count, from + 500); at++) one(at)
    })()
}
const names = Array.from({ length: CASES }, () => `${pick(FIRST)} ${pick(LAST)}`)
together(CASES, (at) => {
  logCase(
    database,
    [
      { fact: 'client.name', is: names[at] },
      { fact: 'client.phone', is: `01632 ${String(900_000 + at)}` },
      { fact: 'devices.d1', is: { kind: 'phone', platform: 'open-phone', make: `${pick(MAKES)} ${at % 40}` } },
      { fact: 'wanted.w1', is: { type: pick(['photos', 'messages', 'documents']), count: 200 } },
      { fact: 'loss.when', is: range((at % 38) + 1, at % 38) },
    ],
    playbook,
    { by: 'Bench', now: NOW },
  )
})
const entries = () => database.$client.prepare('select count(*) from history').pluck().get() as number
together(ENTRIES - entries(), (at) => {
  const code = `RL-${String((at % CASES) + 1).padStart(4, '0')}`
  const says = `${pick(SAID)}, ${pick(FIRST)} ${at}`
  noteHappening(database, code, { kind: 'bench', fact: 'd1', was: null, is: { says } }, { by: 'Bench', now: NOW })
})
renewPlans(database, { playbook, now: NOW }, 60)
database.$client.exec(
  `insert into plans select cases.id, case_version, revision, made_at, until, depth, waits + cases.id / 1e6, closes, plans.body, summary
   from cases join plans on plans.case_id = (select min(case_id) from plans) where cases.id not in (select case_id from plans)`,
)
process.stdout.write(
  `${CASES} cases with ${entries()} entries, filled in ${((performance.now() - begun) / 1000).toFixed(0)} s\n`,
)

function times(count: number, work: (at: number) => unknown): number[] {
  const taken: number[] = []
  for (let at = -5; at < count; at++) {
    const from = performance.now()
    work(Math.max(0, at))
    if (at >= 0) taken.push(performance.now() - from)
  }
  return taken.sort((one, other) => one - other)
}
const at = (taken: readonly number[], share: number) => taken[Math.floor((taken.length - 1) * share)]!

/** As somebody types: each word letter by letter, then further words. */
const typed = ['maud oxley', '01632 912', 'korvane 7', 'wedding', 'gallery bin', 'RL-0412', 'holl', 'charger friday']
  .flatMap((text) => Array.from(text, (_, index) => text.slice(0, index + 1)))
  .filter((text) => text.trim().length >= 2)
const BARE = ['search_cases', 'search_history', 'search_files']
const found = times(typed.length, (index) =>
  search(database, typed[index]!, 'owner', { zone: 'UTC', currency: 'GBP', now: NOW }),
)
const statements = BARE.map((table) =>
  database.$client.prepare(`select rowid from ${table} where ${table} match ? order by rowid desc limit 240`),
)
const bare = times(typed.length, (index) => {
  const query = matchQuery(typed[index]!)
  for (const statement of statements) statement.all(query)
})
const counter = times(40, () => openCases(database, { playbook, now: NOW }, 'owner'))
const counterRows = database.$client.prepare(
  "select summary from plans join cases on cases.id = case_id where state != 'closed' order by waits desc limit 200",
)
const bareCounter = times(40, () => counterRows.all())

const line = (what: string, taken: readonly number[], sql: readonly number[]) =>
  `${what.padEnd(44)}${at(taken, 0.5).toFixed(2).padStart(11)}${at(taken, 0.95).toFixed(2).padStart(11)}${(at(taken, 0.5) / at(sql, 0.5)).toFixed(1).padStart(12)}\n`
process.stdout.write(
  `${'what'.padEnd(44)}${'median ms'.padStart(11)}${'95 % ms'.padStart(11)}${'× bare SQL'.padStart(12)}\n`,
)
process.stdout.write(line('search, letter by letter', found, bare))
process.stdout.write(line('the counter’s data', counter, bareCounter))
database.$client.close()
rmSync(folder, { recursive: true })
