import type { Case } from '../cases/shape/case'
import { heldFor, lentTo } from '../cases/shape/custody'
import { frozenBy } from '../cases/shape/freeze'
import { DAY_MS } from '../cases/shape/moment'
import { accountOf } from '../cases/shape/money'
import { openRunsOf } from '../cases/shape/open-runs'
import { WIPED_PARTS, type WipedPart } from '../cases/shape/wiping'
import type { Shop } from '../playbook/shop'

/** Why a part of a case cannot be wiped at all now. */
export const WIPE_STOPS = ['stopped', 'not-ended', 'run-open'] as const
export type WipeStop = (typeof WIPE_STOPS)[number]

/** What somebody has to decide before a part is wiped: it is not wiped automatically meanwhile. */
export const WIPE_ASKS = ['unpaid', 'things-here', 'loan-out'] as const
export type WipeAsk = (typeof WIPE_ASKS)[number]

/** How it stands with one part of a case. */
export interface WipeStanding {
  readonly part: WipedPart
  /**
   * `later` before its date, `due` from then on, `asks` where it is due and something has to be decided first, `held` where it
   * cannot be wiped, `wiped` afterwards
   */
  readonly state: 'later' | 'due' | 'asks' | 'held' | 'wiped'
  /** when it is wiped, or was; ms, null while the case has not ended */
  readonly at: number | null
  readonly stop: WipeStop | null
  readonly asks: readonly WipeAsk[]
}

const ENDED: readonly Case['state']['name'][] = ['handed-over', 'uncollected', 'closed']

/**
 * From when on the periods of a case are counted, ms: from the last return of a thing, otherwise from the end of the case;
 * null while it goes on.
 */
export function countedFrom({ state, things }: Pick<Case, 'state' | 'things'>): number | null {
  if (!ENDED.includes(state.name) || state.since === null) return null
  const returns = things
    .filter(({ isLoan }) => !isLoan)
    .flatMap(({ steps }) => steps.filter(({ step }) => step === 'returned' || step === 'disposed'))
    .map(({ at }) => Date.parse(at))
  return returns.length > 0 && heldFor(things).length === 0 ? Math.max(...returns) : Date.parse(state.since)
}

/** When the data of a case are wiped, and when whatever names the person; ms, null while the case goes on. */
export function wipeDates(ofCase: Case, { papers }: Shop): Record<WipedPart, number | null> {
  const from = countedFrom(ofCase)
  if (from === null) return { data: null, person: null }
  const later = ofCase.wiping.keepUntil === null ? 0 : Date.parse(ofCase.wiping.keepUntil)
  const data = Math.max(from + papers.wipeDays * DAY_MS, later)
  return { data, person: Math.max(from + papers.personDays * DAY_MS, data) }
}

/** Why nothing of a case can be wiped now; null where it can. */
export function wipeStop(ofCase: Case): WipeStop | null {
  if (frozenBy(ofCase.freezes)) return 'stopped'
  if (openRunsOf(ofCase).length > 0) return 'run-open'
  return countedFrom(ofCase) === null ? 'not-ended' : null
}

/** What has to be decided before anything of a case is wiped. */
export function wipeAsks({ money, things }: Pick<Case, 'money' | 'things'>): WipeAsk[] {
  const asks = {
    unpaid: accountOf(money).open !== 0,
    'things-here': heldFor(things).length > 0,
    'loan-out': lentTo(things).length > 0,
  }
  return WIPE_ASKS.filter((one) => asks[one])
}

/** How it stands with wiping the data of a case, and whatever names the person. `now`: ms. */
export function wipeStandings(ofCase: Case, shop: Shop, now: number): WipeStanding[] {
  const dates = wipeDates(ofCase, shop)
  const stop = wipeStop(ofCase)
  const asks = wipeAsks(ofCase)
  return WIPED_PARTS.map((part) => {
    const wiped = ofCase.wiping[part]
    const at = wiped ? Date.parse(wiped.at) : dates[part]
    const isDue = at !== null && at <= now
    const state = wiped ? 'wiped' : stop ? 'held' : !isDue ? 'later' : asks.length > 0 ? 'asks' : 'due'
    return { part, state, at, stop: wiped ? null : stop, asks: wiped ? [] : asks }
  })
}
