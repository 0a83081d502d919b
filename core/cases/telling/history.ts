import { z } from 'zod'
import { askingOf, type Control } from './asking'
import { valueWords, type AnswerContext } from './answering'
import { Copy } from '../shape/copy'
import { Device } from '../shape/device'
import { known } from '../shape/fact'
import { instant } from '../shape/moment'
import type { RunCause } from '../shape/run'
import { Secret } from '../shape/secret'
import { CAUSE_WORDS, TYPE_WORDS, copyWords, deviceWords, STATE_WORDS } from './words'
import { WantedSet } from '../shape/wanted'

export const HISTORY_KINDS = [
  'logged',
  'imported',
  'fact',
  'hold',
  'run-started',
  'run-ended',
  'run-sheet',
  'run-left-out',
  'moved',
  'override',
  'bench',
  'hand-over',
  'wiped',
] as const

/** One change to a case: who made it, when, and the value before and after. Never edited, never removed. */
export const HistoryEntry = z.object({
  id: z.int(),
  version: z.int().min(1),
  at: instant,
  by: z.string(),
  kind: z.enum(HISTORY_KINDS),
  /** path of the fact, or id of the hold, the run */
  fact: z.string(),
  was: z.unknown(),
  is: z.unknown(),
  /** written before the history had its chain of digests */
  isEarlier: z.boolean().default(false),
  /** its content was wiped with the case; `fact`, `was` and `is` are empty */
  isWiped: z.boolean().default(false),
})
export type HistoryEntry = z.infer<typeof HistoryEntry>

/** The history of a case, oldest entry first. */
export const CaseHistory = z.array(HistoryEntry)

const KIND_WORDS: Record<HistoryEntry['kind'], string> = {
  logged: 'logged the case',
  imported: 'imported the case',
  fact: 'changed a fact',
  hold: 'marked a hold',
  'run-started': 'started a run',
  'run-ended': 'ended a run',
  'run-sheet': 'worked through a run sheet',
  'run-left-out': 'changed whether the odds count a run',
  moved: 'moved the case',
  override: 'changed the order of the routes',
  bench: 'worked at the bench',
  'hand-over': 'did something with the client',
  wiped: 'wiped a part of the case',
}

/** A change in a sentence: what changed, from what, to what. */
export function historyWords(
  entry: Pick<HistoryEntry, 'kind' | 'fact' | 'was' | 'is'> & { readonly isWiped?: boolean },
  context: AnswerContext,
): string {
  const is = entry.is as Record<string, unknown> | null
  if (entry.isWiped) return `${KIND_WORDS[entry.kind]}, content wiped`
  if (entry.kind === 'logged') return 'logged the case'
  if (entry.kind === 'imported') return importedWords(is)
  if (entry.kind === 'bench' || entry.kind === 'run-sheet' || entry.kind === 'hand-over' || entry.kind === 'wiped')
    return String(is?.says ?? '')
  if (entry.kind === 'hold') return holdWords(entry.fact, is)
  if (entry.kind === 'run-started') return `started: ${String(is?.title ?? entry.fact)}`
  if (entry.kind === 'run-ended') return `ended: ${String(is?.title ?? entry.fact)}${backWords(is)}`
  if (entry.kind === 'run-left-out') return leftOutWords(is, entry.fact)
  if (entry.kind === 'moved') return movedWords(is)
  if (entry.kind === 'override')
    return is ? `changed the order of the routes: ${String(is.reason)}` : 'restored the best order'
  return factWords(entry, context)
}

function importedWords(is: Record<string, unknown> | null): string {
  const before = Array.isArray(is?.before) ? is.before.length : 0
  return `imported the case from ${is?.was ? `a file, where it was ${String(is.was)}` : 'a file'}${before > 0 ? `, with ${before} entries of its history there` : ''}`
}

function holdWords(hold: string, mark: Record<string, unknown> | null): string {
  const name = hold.replaceAll('-', ' ')
  if (!mark) return `reopened the hold “${name}”`
  return mark.mark === 'waived' ? `waived the hold “${name}”: ${String(mark.reason)}` : `ticked the hold “${name}”`
}

function backWords(run: Record<string, unknown> | null): string {
  if (run?.hasFailed) {
    const cause = run.cause ? ` (${CAUSE_WORDS[run.cause as RunCause]})` : ''
    return `, which failed${cause}${run.note ? `: ${String(run.note)}` : ''}`
  }
  const copy = run?.safetyCopy as { items: number; place: string } | null | undefined
  if (copy) return `, read back: ${copy.items} items, ${copy.place}`
  if (run?.failedOn) return `, which failed on: ${String(run.failedOn).replaceAll('-', ' ')}`
  const results = (run?.results ?? []) as { back: number; whole: number; unverified?: number }[]
  const sum = (of: (result: (typeof results)[number]) => number) => results.reduce((all, result) => all + of(result), 0)
  const [back, whole, unverified] = [sum((one) => one.back), sum((one) => one.whole), sum((one) => one.unverified ?? 0)]
  const damaged = back - whole - unverified
  if (back === 0) return String(run?.option ?? '').startsWith('repair:') ? ', it runs again' : ', nothing came back'
  const rest = [unverified > 0 ? `${unverified} not verified` : '', damaged > 0 ? `${damaged} damaged` : '']
  return [`, ${back} back, ${whole} of them whole`, ...rest.filter(Boolean)].join(', ')
}

function leftOutWords(is: Record<string, unknown> | null, run: string): string {
  const title = String(is?.title ?? run)
  return is?.reason ? `left “${title}” out of the odds: ${String(is.reason)}` : `counted “${title}” in the odds again`
}

function movedWords(state: Record<string, unknown> | null): string {
  const name = String(state?.name) as keyof typeof STATE_WORDS
  const waiting = state?.waitingFor ? ` for ${String(state.waitingFor)}` : ''
  const reason = state?.reason ? `: ${String(state.reason)}` : ''
  return `moved the case to “${STATE_WORDS[name] ?? name}${waiting}”${reason}`
}

const BY_ID: readonly Control['by'][] = ['parts', 'place', 'secret']

function factWords(entry: Pick<HistoryEntry, 'fact' | 'was' | 'is'>, context: AnswerContext): string {
  if (entry.fact === 'isTraining')
    return entry.is === true ? 'marked it as training: it never counts in the odds' : 'it is no training any more'
  const [list, id, ...rest] = entry.fact.split('.')
  const isPart =
    (list === 'devices' || list === 'wanted' || list === 'copies' || list === 'secrets') &&
    id !== undefined &&
    rest.length === 0
  if (isPart)
    return `${entry.is === null ? 'took out' : entry.was === null || entry.was === undefined ? 'added' : 'changed'} ${partWords(list, entry.is ?? entry.was)}`
  const asking = askingOf(entry.fact)
  const label = asking?.label.toLowerCase() ?? entry.fact
  // Its value is the id of another part, which means nothing here and may be gone by now.
  if (asking && BY_ID.includes(asking.control.by) && entry.is !== 'apart' && entry.is !== 'unknown')
    return `changed ${label}`
  const was = valueWords(entry.fact, entry.was, context)
  const is = valueWords(entry.fact, entry.is, context)
  return is === null
    ? `${label}: no longer known (was ${was ?? 'not known'})`
    : was === null
      ? `${label}: ${is}`
      : `${label}: ${was} → ${is}`
}

function partWords(list: 'devices' | 'wanted' | 'copies' | 'secrets', value: unknown): string {
  if (list === 'secrets') {
    const secret = Secret.safeParse(value)
    const label = secret.success && known(secret.data.label) ? `: ${secret.data.label}` : ''
    return `${secret.success && secret.data.kind === 'account' ? 'an account' : 'a password'} of several copies${label}`
  }
  if (list === 'devices') {
    const device = Device.safeParse(value)
    return device.success ? deviceWords(device.data) : 'a device'
  }
  if (list === 'copies') {
    const copy = Copy.safeParse(value)
    return copy.success ? copyWords(copy.data) : 'a copy'
  }
  const set = WantedSet.safeParse(value)
  return set.success && set.data.type !== 'unknown' ? `a wanted set: ${TYPE_WORDS[set.data.type]}` : 'a wanted set'
}
