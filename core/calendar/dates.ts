import { wipeStandings } from '../afterwards/standing'
import type { Case } from '../cases/shape/case'
import { frozenBy } from '../cases/shape/freeze'
import { known } from '../cases/shape/fact'
import { MINUTE_MS } from '../cases/shape/moment'
import { isBeingWorked } from '../cases/shape/states'
import type { LinkState } from '../bench/state'
import { reminderOf } from '../handover/next'
import type { Shop } from '../playbook/shop'

/** What happens on a date. */
export const DATE_KINDS = ['remind', 'deadline', 'closes', 'arrives', 'expires', 'wipe'] as const
export type DateKind = (typeof DATE_KINDS)[number]

/** One date of a case. It says the code of the case and nothing about whoever it belongs to. */
export interface CaseDate {
  readonly code: string
  readonly kind: DateKind
  /** ms */
  readonly at: number
  /** several of one kind in a case are told apart by it */
  readonly part: string
}

const WORDS: Record<DateKind, string> = {
  remind: 'tell or remind the client',
  deadline: 'needed by the client',
  closes: 'a way of getting data back closes',
  arrives: 'what was asked for arrives: an export, a copy, a restore',
  expires: 'the access to an account or a link ends',
  wipe: 'the data are wiped',
}

/** A date in words: "RL-0012: tell or remind the client". */
export const dateWords = ({ code, kind }: Pick<CaseDate, 'code' | 'kind'>): string => `${code}: ${WORDS[kind]}`

/** Dates that are this long past are no longer in the calendar. */
const PAST_MS = 14 * 24 * 60 * MINUTE_MS

interface Known {
  readonly shop: Shop
  /** when the first window of the plan closes, ms; null where none does */
  readonly closes: number | null
  /** the states of the links that are attached */
  readonly links: readonly Pick<LinkState, 'id' | 'tasks' | 'sessionEnds' | 'keeps'>[]
  /** ms */
  readonly now: number
}

/** The dates of one case: follow-ups, the deadline, what closes, arrives or expires, and when it is wiped. None while it is stopped. */
export function datesOf(ofCase: Case, { shop, closes, links, now }: Known): CaseDate[] {
  if (frozenBy(ofCase.freezes)) return []
  const { code } = ofCase
  const found: CaseDate[] = []
  const add = (kind: DateKind, at: number | null, part = '') => {
    if (at !== null && at > now - PAST_MS) found.push({ code, kind, at, part })
  }
  add('remind', reminderOf(ofCase, shop, now)?.at ?? null)
  if (isBeingWorked(ofCase.state.name)) {
    const { deadline } = ofCase.limits
    add('deadline', known(deadline) ? Date.parse(deadline.from) : null)
    add('closes', closes)
    for (const { id, tasks, sessionEnds, keeps } of links) {
      for (const task of tasks) if (task.state === 'running') add('arrives', Date.parse(task.ends), `${id} ${task.id}`)
      add('expires', sessionEnds === null ? null : Date.parse(sessionEnds), id)
      for (const keep of keeps) add('expires', keep.until === null ? null : Date.parse(keep.until), `${id} ${keep.id}`)
    }
  }
  const data = wipeStandings(ofCase, shop, now).find(({ part }) => part === 'data')
  add('wipe', data && data.state !== 'wiped' ? data.at : null)
  return found.sort((one, other) => one.at - other.at)
}
