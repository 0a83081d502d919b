import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { LedgerFilter, type LedgerFilter as Filter } from '../core/ledger/filter'
import { defaultPlaybook } from '../core/playbook/playbook'
import { openDatabase } from '../server/db/open'
import { allLearned, kindLearned, readLedger, runsBehind } from '../server/ledger/ledger'
import { casesBehind } from '../server/ledger/select'
import { fillPastYear } from '../server/stand-ins/past-year'

/** A simulated year of 5,000 runs: how long each page of the ledger takes, in ms and as a multiple of the bare SQL that reads the same rows. */
const NOW = Date.UTC(2026, 10, 24, 10, 42)
const folder = mkdtempSync(join(tmpdir(), 'lantern-bench-'))
const database = openDatabase(folder, resolve('server/db/migrations'))
const begun = performance.now()
fillPastYear(database, { seed: 1, runs: 5000, now: NOW })
process.stdout.write(`5000 runs, filled in ${((performance.now() - begun) / 1000).toFixed(0)} s\n`)
const reading = { role: 'owner', playbook: defaultPlaybook(), now: NOW } as const

function times(work: () => unknown): number[] {
  const taken: number[] = []
  for (let at = -3; at < 60; at++) {
    const from = performance.now()
    work()
    if (at >= 0) taken.push(performance.now() - from)
  }
  return taken.sort((one, other) => one - other)
}
const at = (taken: readonly number[], share: number) => taken[Math.floor((taken.length - 1) * share)]!
const filterOf = (more: object = {}): Filter => LedgerFilter.parse(more)

const bareRuns = database.$client.prepare('select * from ended_runs order by ended desc')
const bareCases = database.$client.prepare('select * from case_lines order by logged desc')
const bareKind = database.$client.prepare("select * from ended_runs where kind = 'ask-sender' order by ended")
const both = () => [bareRuns.all(), bareCases.all()]
process.stdout.write(
  `${'page'.padEnd(36)}${'median ms'.padStart(11)}${'95 % ms'.padStart(11)}${'× bare SQL'.padStart(12)}\n`,
)
for (const [page, work, bare] of [
  ['the ledger, 12 months', () => readLedger(database, filterOf(), reading), both],
  ['the ledger, one device', () => readLedger(database, filterOf({ device: 'phone' }), reading), both],
  ['runs behind a lamp', () => runsBehind(database, filterOf({ tenth: 9 }), reading), () => bareRuns.all()],
  [
    'cases behind a hold',
    () => casesBehind(database, { period: '365', waived: 'stop-using' }, reading),
    () => bareCases.all(),
  ],
  ['all odds', () => allLearned(database, reading.playbook), () => bareRuns.all()],
  ['one kind', () => kindLearned(database, reading.playbook, 'ask-sender'), () => bareKind.all()],
] as const) {
  const [own, sql] = [times(work), times(bare)]
  process.stdout.write(
    `${page.padEnd(36)}${at(own, 0.5).toFixed(1).padStart(11)}${at(own, 0.95).toFixed(1).padStart(11)}${(at(own, 0.5) / at(sql, 0.5)).toFixed(1).padStart(12)}\n`,
  )
}
database.$client.close()
rmSync(folder, { recursive: true })
