import { desc, eq, ne, or, sql } from 'drizzle-orm'
import { Case } from '../../core/cases/case'
import { digitsOf } from '../../core/cases/client'
import { countOf } from '../../core/cases/wanted'
import { known } from '../../core/cases/fact'
import { outcomeOf } from '../../core/cases/outcome'
import { isBeingWorked } from '../../core/cases/states'
import type { CaseSummary } from '../../core/cases/writing'
import { deviceWords, STATE_WORDS, TYPE_WORDS } from '../../core/cases/words'
import type { Playbook } from '../../core/playbook/playbook'
import { fullPlanOf, type FullPlan } from '../../core/ranking/plan'
import type { Database } from '../db/open'
import { cases } from '../db/tables'

const MOST = 200

/** Plans made for the counter, by database, kept while neither the case nor the minute has changed. */
const keptPlans = new WeakMap<Database, Map<string, FullPlan>>()
const MOST_KEPT = 2000

function planFor(database: Database, key: string, ofCase: Case, playbook: Playbook, now: number): FullPlan {
  const kept = keptPlans.get(database) ?? new Map<string, FullPlan>()
  keptPlans.set(database, kept)
  const made = kept.get(key) ?? fullPlanOf(ofCase, playbook, now)
  if (kept.size > MOST_KEPT) kept.clear()
  kept.set(key, made)
  return made
}

/** The open cases by what closes next; those whose data is back or that have nothing to close come last. */
export function openCases(database: Database, playbook: Playbook, now: number): CaseSummary[] {
  const rows = database.select().from(cases).where(ne(cases.state, 'closed')).orderBy(desc(cases.id)).limit(MOST).all()
  return rows.map((row) => summaryOf(database, row, playbook, now)).sort(byClosing)
}

/** Cases, open and closed, that a name, a code or a phone number finds. */
export function findCases(database: Database, typed: string, playbook: Playbook, now: number): CaseSummary[] {
  const sought = typed.trim()
  const escaped = `%${sought.replace(/[\\%_]/g, (sign) => `\\${sign}`)}%`
  const digits = digitsOf(sought)
  const inText = sql`(${cases.clientName} like ${escaped} escape '\\' or ${cases.code} like ${escaped} escape '\\' or json_extract(${cases.body}, '$.title') like ${escaped} escape '\\')`
  const isNumber = digits.length >= 3 && /^[\d\s+()/.-]+$/.test(sought)
  const rows = database
    .select()
    .from(cases)
    .where(isNumber ? or(inText, sql`${cases.phoneDigits} like ${`%${digits}%`}`) : inText)
    .orderBy(sql`${eq(cases.state, 'closed')}`, desc(cases.id))
    .limit(30)
    .all()
  return rows.map((row) => summaryOf(database, row, playbook, now))
}

const byClosing = (one: CaseSummary, other: CaseSummary) =>
  closingOf(one) - closingOf(other) || other.code.localeCompare(one.code)
const closingOf = (summary: CaseSummary) =>
  summary.closes[0] ? Date.parse(summary.closes[0]) : isBeingWorked(summary.stateName) ? 8e15 : 9e15

function summaryOf(database: Database, row: typeof cases.$inferSelect, playbook: Playbook, now: number): CaseSummary {
  const ofCase = Case.parse(JSON.parse(row.body))
  const full = planFor(database, `${row.id}/${row.version}/${Math.floor(now / 60_000)}`, ofCase, playbook, now)
  const { plan } = full
  const isLive = isBeingWorked(ofCase.state.name)
  const next = plan.options.find((option) => option.id === plan.order[0])
  const open = ofCase.runs.find((run) => run.ended === null)
  const closing = isLive ? firstClosing(full) : null
  const device = ofCase.devices[0]
  return {
    code: row.code,
    client: known(ofCase.client.name) ? ofCase.client.name : 'Not named yet',
    wanted: wantedWords(ofCase),
    device: device ? deviceWords(device) : 'device not known',
    state: STATE_WORDS[ofCase.state.name] + (ofCase.state.waitingFor ? ` for ${ofCase.state.waitingFor}` : ''),
    stateName: ofCase.state.name,
    nextStep: nextWords(ofCase, open?.title ?? null, isLive ? (next?.title ?? null) : null),
    back: backShare(ofCase),
    expected: isLive ? plan.expected.share[1] : backShare(ofCase),
    closes: closing ? closing.closes : [null, null],
    closesWhat: closing ? closingWhat(ofCase, closing) : '',
    waitCost: isLive ? plan.waiting.money : 0,
    waitItems: isLive ? waitWords(ofCase, plan.waiting.items) : '',
    with: ofCase.with,
  }
}

function firstClosing({ plan }: FullPlan) {
  const closing = plan.options.filter((option) => option.standing === 'plan' && option.closes[0] !== null)
  return closing.sort((one, other) => Date.parse(one.closes[0]!) - Date.parse(other.closes[0]!))[0] ?? null
}

function closingWhat(
  ofCase: Case,
  { closes, title }: { closes: [string | null, string | null]; title: string },
): string {
  const { deadline } = ofCase.limits
  return known(deadline) && deadline.from === closes[0] ? 'the deadline' : title
}

function nextWords(ofCase: Case, openRun: string | null, next: string | null): string {
  const { name, waitingFor } = ofCase.state
  if (openRun) return `under way: ${openRun}`
  if (name === 'waiting') return `wait for the ${waitingFor}${next ? `, then ${lowered(next)}` : ''}`
  if (name === 'ready') return 'go through it with the client'
  if (name === 'uncollected') return 'call the client'
  if (name === 'handed-over') return 'close the case'
  if (name === 'closed') return ''
  return next
    ? lowered(next)
    : ofCase.wanted.length === 0
      ? 'say what is wanted'
      : ofCase.runs.length === 0
        ? 'ask what copies there may be'
        : 'nothing is left to try'
}

const lowered = (words: string) => words.charAt(0).toLowerCase() + words.slice(1)

function wantedWords(ofCase: Case): string {
  return (
    ofCase.wanted
      .map((set) => {
        const what = known(set.title) ? set.title : known(set.type) ? TYPE_WORDS[set.type] : 'not said yet'
        return known(set.count) && set.count > 1 ? `${set.count} ${what}` : what
      })
      .join(', ') || 'not said yet'
  )
}

function backShare(ofCase: Case): number {
  const counted = outcomeOf(ofCase).filter((outcome) => outcome.of !== null)
  if (counted.length === 0) return 0
  return counted.reduce((sum, outcome) => sum + Math.min(1, outcome.whole / outcome.of!), 0) / counted.length
}

function waitWords(ofCase: Case, items: Record<string, number>): string {
  const [set, amount] = ofCase.wanted
    .map((one) => [one, items[one.id] ?? 0] as const)
    .reduce<readonly [Case['wanted'][number] | null, number]>((most, one) => (one[1] > most[1] ? one : most), [null, 0])
  if (!set || amount < 0.05) return 'nothing yet'
  const what = known(set.type) ? TYPE_WORDS[set.type] : 'items'
  if (countOf(set) === 1) return `${amount.toFixed(1)} of 1`
  return amount < 1.5 ? `1 ${singular(what)}` : `${Math.round(amount)} ${what}`
}

const singular = (words: string) => words.replace(/ies$/, 'y').replace(/s$/, '')
