import type { Case } from '../cases/shape/case'
import { heldFor } from '../cases/shape/custody'
import { known } from '../cases/shape/fact'
import { DAY_MS } from '../cases/shape/moment'
import { accountOf } from '../cases/shape/money'
import { openingStop } from '../cases/shape/permission'
import type { Shop } from '../playbook/shop'

/** What comes next between shop and client. */
export type NextWithClient = 'take-in' | 'agree' | 'remind' | 'check' | 'outcome' | 'pay' | 'give-back' | null

/** The next thing to do between shop and client: what was brought is taken in, then agreed, and in the end handed over. */
export function nextWithClient(ofCase: Case, shop: Shop, now: number): NextWithClient {
  const { state, things, outcome, checks } = ofCase
  if (things.length === 0 && ofCase.devices.length > 0) return 'take-in'
  if (openingStop(ofCase)?.code === 'not-recorded') return 'agree'
  if (state.name !== 'ready' && state.name !== 'uncollected') return null
  if (reminderOf(ofCase, shop, now)?.isDue) return 'remind'
  const cameBack = ofCase.runs.some(({ results }) => results.some(({ back }) => back > 0))
  if (cameBack && checks.length === 0 && outcome === null) return 'check'
  if (outcome === null) return 'outcome'
  if (accountOf(ofCase.money).open > 0) return 'pay'
  return heldFor(things).length > 0 ? 'give-back' : null
}

/** Reminding the client that it is ready: which one is next, and when. */
export interface Reminder {
  /** 1 for the first */
  readonly number: number
  /** ms */
  readonly at: number
  readonly isDue: boolean
}

/** A try to reach the client counts, answered or not. */
const REACHING = ['called', 'no-answer', 'wrote'] as const

/** The next reminder of a case that is ready; null where it is not, and after the last one. */
export function reminderOf({ state, contacts }: Case, { papers }: Shop, now: number): Reminder | null {
  if ((state.name !== 'ready' && state.name !== 'uncollected') || state.since === null) return null
  const since = Date.parse(state.since)
  const tried = contacts.filter(({ at, way }) => Date.parse(at) >= since && REACHING.some((one) => one === way)).length
  // The first word that it is ready comes at once; the reminders follow on their days.
  const days = [0, ...papers.reminderDays.toSorted((one, other) => one - other)]
  const next = days[tried]
  return next === undefined
    ? null
    : { number: tried + 1, at: since + next * DAY_MS, isDue: next === 0 || since + next * DAY_MS <= now }
}

/** From when on the terms for what is not collected apply, ms; null while the case is not ready. */
export function uncollectedFrom({ state }: Pick<Case, 'state'>, { papers }: Shop): number | null {
  if ((state.name !== 'ready' && state.name !== 'uncollected') || state.since === null) return null
  return Date.parse(state.since) + papers.uncollectedDays * DAY_MS
}

/** What to write or say to the client, to be copied: nothing is sent from here. */
export function reminderText(ofCase: Case, shop: Shop, number: number): string {
  const name = known(ofCase.client.name) ? ofCase.client.name : ''
  const things = heldFor(ofCase.things).map(({ words }) => words)
  const what = things.length === 0 ? 'your case' : things.join(' and ')
  const opening =
    number === 1
      ? `${what} is ready to be collected`
      : `we remind you that ${what} is still here, ready to be collected`
  return [
    `Dear ${name || 'client'},`,
    '',
    `${opening} (case ${ofCase.code}). Please bring the receipt with its code, or a document that shows who you are.`,
    ...(shop.papers.uncollectedDays > 0
      ? [`After ${shop.papers.uncollectedDays} days we ask you in writing what shall be done with it.`]
      : []),
    '',
    [shop.name, shop.papers.phone, shop.papers.mail].filter(Boolean).join(', '),
  ].join('\n')
}
