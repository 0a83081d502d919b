import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { Case, CASE_FORMAT } from '../core/cases/shape/case'
import { withFacts } from '../core/cases/facts/facts'
import { DAY_MS, isoOf } from '../core/cases/shape/moment'
import { defaultPlaybook } from '../core/playbook/playbook'
import { consider } from '../core/ranking/explain/consider'
import { plannedFor } from '../core/ranking/order/planned'
import { bestPolicy } from '../core/ranking/order/policy'
import { fullPlanOf } from '../core/ranking/explain/plan'
import { STEADY, type JointState, type Problem, type Step, type WindowLeft } from '../core/ranking/order/problem'
import { openCases } from '../server/cases/summaries'
import { renewPlans } from '../server/cases/plans'
import { logCase } from '../server/cases/writing/log'
import { openDatabase } from '../server/db/open'
import { chanceFrom } from '../core/testing/chance-from'
import { demoCases } from '../stand-ins/shop/cases'
import { demoTimes } from '../stand-ins/shop/times'

/**
 * Figures of this machine, printed as a table: times in ms and as a multiple of what reading one case's
 * JSON takes in the same run, since machines differ. Nothing is asserted.
 */
const NOW = Date.UTC(2026, 10, 24, 10, 42)
const playbook = defaultPlaybook()
const ago = (from: number, to = from) => ({ from: isoOf(NOW - from * DAY_MS), to: isoOf(NOW - to * DAY_MS) })

const random = chanceFrom(1)
const between = (low: number, high: number) => low + (high - low) * random()
const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!

/** A generated problem: so many options in so many states, half of them with closing windows. */
function problemOf(options: number, states: number, slices: number): Problem {
  const groups = Math.ceil(options * 0.7)
  const step = (index: number): Step => ({
    id: `s${index}`,
    group: index % groups,
    place: `place ${index % groups}`,
    nest: index % 5 === 4 ? 'medium' : null,
    cost: between(2, 60),
    look: 0,
    take: index === options - 1 ? 200 : 0,
    harm: index % 6 === 5 ? 120 : 0,
    destroys: 'device',
    coveredBy: [],
    requires: [],
    hands: Math.round(between(3, 120)),
    wait: between(0, 60),
    answersLater: false,
    closesByUse: false,
    leaves: Array.from({ length: options }, () => (random() < 0.05 ? 0.5 : 1)),
  })
  // As in a case, a window has few forms, and many states share each of them.
  const closing = Array.from({ length: options }, (): WindowLeft[] => {
    if (random() < 0.5) return [STEADY]
    return Array.from({ length: 4 }, () => {
      const fade = between(0, 0.002)
      return (ms) => Math.max(0, 1 - (fade * ms) / 60_000)
    })
  })
  const state = (): JointState => ({
    probability: 1 / states,
    access: Array.from({ length: groups }, () => between(0.4, 1)),
    own: Array.from({ length: options }, () => between(0.1, 0.95)),
    share: Array.from({ length: options }, () => Array.from({ length: slices }, () => random())),
    windows: closing.map(pick),
  })
  return {
    steps: Array.from({ length: options }, (_, index) => step(index)),
    groups,
    worth: Array.from({ length: slices }, () => 300 / slices),
    elapsed: (hands, wait) => (hands + wait) * 60_000,
    latePerDay: 0.01,
    residue: 0.15,
    tie: 0,
    states: Array.from({ length: states }, state),
  }
}

/** A generated case with half of its facts unknown. */
function caseOf(copies: number): Case {
  const kinds = ['cloud-library', 'computer-backup', 'cloud-backup', 'person', 'cloud-drive', 'medium'] as const
  const changes = [
    { fact: 'client.name', is: `Client ${Math.round(random() * 1e6)}` },
    {
      fact: 'devices.d1',
      is: { kind: 'phone', platform: pick(['closed-phone', 'open-phone']), lock: pick(['unlocked', 'unknown']) },
    },
    { fact: 'wanted.w1', is: { type: 'photos', count: 300, made: ago(60, 20) } },
    { fact: 'loss.how', is: 'deleted-in-bulk' },
    { fact: 'loss.when', is: ago(between(10, 18), between(2, 9)) },
    ...Array.from({ length: copies }, (_, index) => ({
      fact: `copies.c${index + 1}`,
      is: { kind: kinds[index % kinds.length], taken: ago(between(19, 40)), account: pick(['known', 'unknown']) },
    })),
  ]
  const set = withFacts(Case.parse({ format: CASE_FORMAT, version: 1 }), changes)
  if (!set.ok) throw new Error(JSON.stringify(set.faults))
  return set.changed
}

const rows: { what: string; median: number; high: number }[] = []
function measure(what: string, times: number, work: (turn: number) => unknown): number {
  const taken: number[] = []
  for (let turn = 0; turn < times + 5; turn++) {
    const begun = performance.now()
    work(turn)
    if (turn >= 5) taken.push(performance.now() - begun)
  }
  taken.sort((one, other) => one - other)
  const median = taken[Math.floor(taken.length / 2)]!
  rows.push({ what, median, high: taken[Math.floor(taken.length * 0.95)]! })
  return median
}

const text = JSON.stringify(caseOf(4))
const unit = measure(`JSON.parse of one case (${text.length} characters)`, 400, () => JSON.parse(text))
for (const [options, states, slices] of [
  [8, 64, 60],
  [8, 32, 60],
  [8, 64, 12],
] as const) {
  const problems = Array.from({ length: 10 }, () => problemOf(options, states, slices))
  measure(`plan of ${options} options in ${states} joint states, ${slices} columns`, 40, (turn) =>
    bestPolicy(problems[turn % problems.length]!),
  )
}
const large = Array.from({ length: 5 }, () => problemOf(14, 16, 12))
measure('plan of 14 options in 16 joint states, 8 of them exact', 15, (turn) =>
  plannedFor(large[turn % large.length]!).next({ worked: 0, failed: 0, void: 0 }),
)
const demo = demoCases(demoTimes(NOW, playbook.shop.zone)).map(({ facts }): Case => {
  const set = withFacts(Case.parse({ format: CASE_FORMAT, version: 1 }), facts)
  if (!set.ok) throw new Error(JSON.stringify(set.faults))
  return set.changed
})
for (const [what, depth] of [
  ['plan of a demo case, without questions', 'order'],
  ['plan of a demo case, with questions and sensitivity', 'whole'],
] as const)
  measure(what, 4 * demo.length, (turn) => fullPlanOf(demo[turn % demo.length]!, playbook, NOW, { depth }))
const cases = Array.from({ length: 40 }, (_, index) => caseOf(index % 5))
measure('options, joint states and order of a case', 80, (turn) => consider(cases[turn % cases.length]!, playbook, NOW))
measure('plan of a case of which half is unknown', 80, (turn) =>
  fullPlanOf(cases[turn % cases.length]!, playbook, NOW, { depth: 'order' }),
)
measure('the same with questions and sensitivity', 40, (turn) => fullPlanOf(cases[turn % cases.length]!, playbook, NOW))

const folder = mkdtempSync(join(tmpdir(), 'lantern-bench-'))
const database = openDatabase(folder, resolve('server/db/migrations'))
for (let index = 0; index < 5000; index++) {
  const facts = [
    { fact: 'client.name', is: `Client ${index}` },
    { fact: 'devices.d1', is: { kind: 'phone', platform: 'closed-phone', lock: 'unlocked' } },
    { fact: 'wanted.w1', is: { type: 'photos', count: 200 } },
    { fact: 'loss.how', is: 'deleted-in-bulk' },
    { fact: 'loss.when', is: ago((index % 38) + 1, index % 38) },
  ]
  logCase(database, facts, playbook, { by: 'Bench', now: NOW })
}
const RENEWED = 100
const begun = performance.now()
renewPlans(database, { playbook, now: NOW }, RENEWED)
const each = (performance.now() - begun) / RENEWED
// The others get copies of a plan that was made, so that the counter can be measured without hours of planning.
database.$client.exec(
  `insert into plans select cases.id, case_version, revision, made_at, until, depth, waits, closes, plans.body, summary
   from cases join plans on plans.case_id = (select min(case_id) from plans) where cases.id not in (select case_id from plans)`,
)
measure('counter with 5,000 open cases, plans kept', 20, () => openCases(database, { playbook, now: NOW }, 'owner'))
database.$client.close()
rmSync(folder, { recursive: true })

process.stdout.write(
  `${'what'.padEnd(58)}${'median ms'.padStart(11)}${'95 % ms'.padStart(11)}${'× parse'.padStart(11)}\n`,
)
for (const { what, median, high } of rows)
  process.stdout.write(
    `${what.padEnd(58)}${median.toFixed(3).padStart(11)}${high.toFixed(3).padStart(11)}${(median / unit).toFixed(0).padStart(11)}\n`,
  )
process.stdout.write(`one plan, renewed and kept in the background: ${each.toFixed(2)} ms\n`)
