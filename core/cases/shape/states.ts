import { z } from 'zod'

export const CASE_STATES = ['logged', 'at-bench', 'waiting', 'ready', 'handed-over', 'uncollected', 'closed'] as const
export type CaseStateName = (typeof CASE_STATES)[number]

export const WAITING_FOR = ['client', 'account', 'export', 'part', 'laboratory'] as const

/** The states of a case; only a waiting case waits for something. */
export const CaseState = z
  .object({
    name: z.enum(CASE_STATES).default('logged'),
    waitingFor: z.enum(WAITING_FOR).nullable().default(null),
    since: z.iso.datetime().nullable().default(null),
    reason: z.string().max(400).default(''),
  })
  .refine((state) => (state.name === 'waiting') === (state.waitingFor !== null), {
    message: 'a waiting case says what it waits for, and no other does',
    path: ['waitingFor'],
  })
export type CaseState = z.infer<typeof CaseState>

/** What a move may depend on; the rules read nothing else. */
export interface MoveFacts {
  readonly wantedKnown: boolean
  readonly clientKnown: boolean
  readonly runsOpen: number
  readonly runsEnded: number
  readonly dayCountInState: number
}

export interface MoveRequest {
  readonly to: CaseStateName
  readonly waitingFor?: CaseState['waitingFor']
  readonly reason?: string
}

interface Move {
  readonly from: CaseStateName
  readonly to: CaseStateName
  /** why the move is not allowed now, in a sentence, or null where it is */
  readonly refuses: (facts: MoveFacts, request: MoveRequest) => string | null
}

const reasonGiven = (request: MoveRequest) => (request.reason ?? '').trim().length > 0
const free = () => null
const noOpenRun = (facts: MoveFacts) => (facts.runsOpen > 0 ? 'A run is still open. Record its result first.' : null)
const withReason = (what: string) => (facts: MoveFacts, request: MoveRequest) =>
  noOpenRun(facts) ?? (reasonGiven(request) ? null : `Say why ${what}.`)
const saysWhatFor = (_: MoveFacts, request: MoveRequest) =>
  request.waitingFor ? null : 'Say what the case waits for: client, account, export, part or laboratory.'
const somethingWanted = (facts: MoveFacts) =>
  facts.wantedKnown ? null : 'Say what is wanted back before the bench begins.'
const somethingTried = (facts: MoveFacts, request: MoveRequest) =>
  noOpenRun(facts) ??
  (facts.runsEnded > 0 || reasonGiven(request)
    ? null
    : 'Nothing was tried yet: record a run, or say why there is none.')
const clientNamed = (facts: MoveFacts) =>
  noOpenRun(facts) ?? (facts.clientKnown ? null : 'There is no client to hand it over to. Add the client first.')

/** After how many days a case that is ready counts as uncollected. */
export const UNCOLLECTED_AFTER_DAYS = 14

const longReady = (facts: MoveFacts) =>
  facts.dayCountInState >= UNCOLLECTED_AFTER_DAYS
    ? null
    : `It is uncollected after ${UNCOLLECTED_AFTER_DAYS} days; it has been ready for ${Math.floor(facts.dayCountInState)}.`

/** Every move a case can make, each with its rule. What is not listed is refused. */
const MOVES: readonly Move[] = [
  { from: 'logged', to: 'at-bench', refuses: somethingWanted },
  { from: 'logged', to: 'waiting', refuses: saysWhatFor },
  { from: 'logged', to: 'closed', refuses: withReason('it ends before the bench began') },
  { from: 'at-bench', to: 'waiting', refuses: saysWhatFor },
  { from: 'at-bench', to: 'ready', refuses: somethingTried },
  { from: 'at-bench', to: 'closed', refuses: withReason('it ends at the bench') },
  { from: 'waiting', to: 'waiting', refuses: saysWhatFor },
  { from: 'waiting', to: 'at-bench', refuses: somethingWanted },
  { from: 'waiting', to: 'ready', refuses: somethingTried },
  { from: 'waiting', to: 'closed', refuses: withReason('it ends while waiting') },
  { from: 'ready', to: 'handed-over', refuses: clientNamed },
  { from: 'ready', to: 'uncollected', refuses: longReady },
  { from: 'ready', to: 'at-bench', refuses: free },
  { from: 'uncollected', to: 'handed-over', refuses: clientNamed },
  { from: 'uncollected', to: 'closed', refuses: withReason('it is closed without a hand-over') },
  { from: 'handed-over', to: 'closed', refuses: noOpenRun },
  { from: 'handed-over', to: 'at-bench', refuses: withReason('it comes back to the bench') },
  { from: 'closed', to: 'at-bench', refuses: withReason('it is opened again') },
]

/** The states a case in this state can move to, allowed now or not. */
export function movesFrom(state: CaseStateName): CaseStateName[] {
  return MOVES.filter((move) => move.from === state).map((move) => move.to)
}

/**
 * Why a move is refused, in a sentence for people, or null where it is allowed. A move that is not in the list is
 * refused by name.
 */
export function refusalOf(from: CaseStateName, request: MoveRequest, facts: MoveFacts): string | null {
  const move = MOVES.find((candidate) => candidate.from === from && candidate.to === request.to)
  if (!move) return `A case that is ${from.replace('-', ' ')} cannot become ${request.to.replace('-', ' ')}.`
  return move.refuses(facts, request)
}

/** True while data is still being recovered, so that closings matter. */
export function isBeingWorked(state: CaseStateName): boolean {
  return state === 'logged' || state === 'at-bench' || state === 'waiting'
}
