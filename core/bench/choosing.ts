import type { Case } from '../cases/shape/case'
import { foundAs } from '../cases/shape/data-types'
import { known } from '../cases/shape/fact'
import { spanOf, type Span } from '../cases/shape/moment'
import type { WantedSet } from '../cases/shape/wanted'
import { TYPE_WORDS } from '../cases/telling/words'
import type { BackupFacts } from './keep'

export const BACKUP_VERDICTS = [
  'best',
  'useful',
  'unclear',
  'too-late',
  'too-early',
  'kind-missing',
  'other-device',
] as const
export type BackupVerdict = (typeof BACKUP_VERDICTS)[number]

/** A backup among which to choose. */
export interface Choosable {
  readonly id: string
  readonly facts: BackupFacts
  /** whether it is known to be of another device than the case is about */
  readonly isOther: boolean
}

export interface JudgedBackup {
  readonly id: string
  readonly verdict: BackupVerdict
  /** the share of the wanted items that existed when it was taken, 0 to 1; null where dates are not known */
  readonly reach: number | null
  /** why, in one sentence */
  readonly why: string
}

/**
 * Judges every backup against the loss and the wanted items: best is the newest one from before the loss that is later
 * than the items; for the others, why they are not. A backup taken within the range of the loss is unclear: it may
 * contain the items or not.
 */
export function judgeBackups(backups: readonly Choosable[], ofCase: Pick<Case, 'loss' | 'wanted'>): JudgedBackup[] {
  const loss = known(ofCase.loss.when) ? spanOf(ofCase.loss.when) : null
  const judged = backups.map((backup) => judge(backup, loss, ofCase.wanted))
  const useful = judged.filter((one) => one.verdict === 'useful')
  const takenOf = (id: string) => Date.parse(backups.find((one) => one.id === id)!.facts.taken)
  const best = useful.sort(
    (one, other) => (other.reach ?? 0) - (one.reach ?? 0) || takenOf(other.id) - takenOf(one.id),
  )[0]
  return judged.map((one) =>
    one.id === best?.id
      ? { ...one, verdict: 'best', why: `The newest one from before the loss${reachWords(one.reach)}.` }
      : one.verdict === 'useful'
        ? {
            ...one,
            why: `Also from before the loss, but another one reaches more or is newer${reachWords(one.reach)}.`,
          }
        : one,
  )
}

const reachWords = (reach: number | null) =>
  reach === null ? '' : `; ${Math.round(reach * 100)}% of the wanted items existed by then`

function judge({ id, facts, isOther }: Choosable, loss: Span | null, wanted: readonly WantedSet[]): JudgedBackup {
  const taken = Date.parse(facts.taken)
  const types = wanted.flatMap((set) => (known(set.type) ? [set.type] : []))
  const inside = types.filter(
    (type) =>
      (facts.counts[type] ?? facts.counts[foundAs(type)] ?? 0) > 0 ||
      (type === 'files' && Object.keys(facts.counts).length > 0),
  )
  const reach = reachOf(taken, wanted)
  const verdict = (is: BackupVerdict, why: string): JudgedBackup => ({ id, verdict: is, reach, why })
  if (isOther) return verdict('other-device', `It is a backup of ${facts.device}, not of this device.`)
  if (types.length > 0 && inside.length === 0)
    return verdict(
      'kind-missing',
      `It holds none of what is wanted (${types.map((type) => TYPE_WORDS[type]).join(', ')}).`,
    )
  if (reach === 0) return verdict('too-early', 'It is older than all wanted items.')
  if (loss && taken > loss.to)
    return verdict('too-late', 'It was made after the loss: the wanted items were already gone.')
  if (loss && taken > loss.from)
    return verdict('unclear', 'It was made around the time of the loss: it may or may not contain them.')
  return verdict('useful', '')
}

/** The share of the dated wanted items created before a moment, as if they were spread evenly over their dates. */
function reachOf(taken: number, wanted: readonly WantedSet[]): number | null {
  const dated = wanted.flatMap((set) =>
    known(set.made) ? [{ span: spanOf(set.made), count: known(set.count) ? set.count : 1 }] : [],
  )
  if (dated.length === 0) return null
  const all = dated.reduce((sum, one) => sum + one.count, 0)
  const made = dated.reduce((sum, { span, count }) => {
    const length = span.to - span.from
    const share = length <= 0 ? (taken >= span.to ? 1 : 0) : Math.min(1, Math.max(0, (taken - span.from) / length))
    return sum + count * share
  }, 0)
  return made / all
}
