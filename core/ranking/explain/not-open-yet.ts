import { withFacts } from '../../cases/facts/facts'
import type { Case } from '../../cases/shape/case'
import type { CopyKind } from '../../cases/shape/copy'
import { isComputer, isHandheld } from '../../cases/shape/device'
import { known } from '../../cases/shape/fact'
import { nextId } from '../../cases/shape/next-id'
import { COPY_KIND_WORDS } from '../../cases/telling/words'
import { firstRouteIn } from '../order/course'
import { isPreparation } from '../order/preparations'
import type { PlanQuestion } from '../situation/plan-shape'
import { asksOf } from './asks'
import { consider, type Considered } from './consider'
import { expectedShareOf } from './expected'

/** How likely there is such a copy that nobody has mentioned yet; the first fits all types that it serves. */
const HANDHELD: readonly [CopyKind, number][] = [
  ['cloud-library', 0.5],
  ['cloud-backup', 0.35],
  ['computer-backup', 0.2],
  ['contact-archive', 0.6],
]
const COMPUTER: readonly [CopyKind, number][] = [
  ['cloud-drive', 0.4],
  ['file-history', 0.25],
  ['mail-account', 0.7],
  ['bookmark-archive', 0.3],
]

/** Where nothing else is open, what is less usual is asked for too. */
const HANDHELD_TOO: readonly [CopyKind, number][] = [
  ['mail-account', 0.6],
  ['cloud-drive', 0.3],
  ['other-device', 0.3],
  ['app-copies', 0.3],
  ['person', 0.2],
]
const COMPUTER_TOO: readonly [CopyKind, number][] = [
  ['cloud-library', 0.3],
  ['contact-archive', 0.4],
  ['other-device', 0.2],
  ['system-image', 0.1],
  ['person', 0.2],
]
const MEDIUM_TOO: readonly [CopyKind, number][] = [
  ['other-device', 0.3],
  ['person', 0.2],
  ['cloud-library', 0.2],
  ['cloud-drive', 0.2],
]

/** Copies that are no account and no backup: they say nothing of whether there is one. */
const OTHERS: readonly string[] = ['person', 'medium', 'disk-image', 'sim-card', 'other-device']

const MOST_KINDS = 3

/** The kinds of copies that may be there although nobody has mentioned one, with how likely each is; `isAll` asks for more. */
function unmentioned({ situation: { ofCase } }: Considered, isAll: boolean): readonly [CopyKind, number][] {
  const device = ofCase.devices[0]
  if (!device || ofCase.wanted.length === 0) return []
  const body = isHandheld(device) ? 'handheld' : isComputer(device) ? 'computer' : 'medium'
  const usual = body === 'handheld' ? HANDHELD : body === 'computer' ? COMPUTER : []
  if (!isAll) return ofCase.copies.some(({ kind }) => !OTHERS.includes(kind)) ? [] : usual
  const more = body === 'handheld' ? HANDHELD_TOO : body === 'computer' ? COMPUTER_TOO : MEDIUM_TOO
  return [...usual, ...more].filter(([kind]) => !ofCase.copies.some((copy) => copy.kind === kind))
}

/**
 * Where neither an account nor a backup is in the case, or where nothing is open at all, the question for another copy:
 * what each kind would be worth, by how likely there is one. None where none would help.
 */
export function missingCopies(considered: Considered, isNothingOpen: boolean): PlanQuestion[] {
  const { situation, best } = considered
  const { ofCase } = situation
  const fact = `copies.${nextId('c', ofCase.copies)}`
  const likely = unmentioned(considered, isNothingOpen).filter(([kind]) => canServe(kind, considered))
  const found = likely.flatMap(([kind, chance]) => {
    const withIt = supposing(considered, fact, { kind })
    const gain = withIt ? chance * Math.max(0, withIt.value - best.value) : 0
    return withIt && gain > 0 ? [{ kind, gain, words: COPY_KIND_WORDS[kind], ...withIt }] : []
  })
  if (found.length === 0) return []
  const shown = found.sort((one, other) => other.gain - one.gain).slice(0, MOST_KINDS)
  const byWords = <T>(of: (one: (typeof shown)[number]) => T) =>
    Object.fromEntries(shown.map((one) => [one.words, of(one)]))
  return [
    {
      fact,
      asks: asksOf('copies', ofCase),
      gain: shown.reduce((sum, one) => sum + one.gain, 0),
      answers: byWords(({ share }) => share),
      leads: byWords(({ leads }) => leads),
      sets: byWords(({ kind }) => ({ kind })),
    },
  ]
}

/** The plan of the case if one fact were so: its value, the share back, and the route that it begins with. */
function supposing({ situation }: Considered, fact: string, is: unknown) {
  const { ofCase, playbook, now, evidence } = situation
  const set = withFacts(ofCase, [{ fact, is }])
  if (!set.ok) return null
  const { built, best, axes, live } = consider(set.changed, playbook, now, evidence)
  const first = firstRouteIn(
    best.next,
    live.map((option) => !isPreparation(option)),
  )
  return {
    value: best.value,
    share: expectedShareOf(built, best.next, axes)[1],
    leads: first === null ? null : live[first]!.id,
  }
}

/** Whether some kind of route can bring one of the wanted types from such a copy. */
function canServe(kind: CopyKind, { situation: { ofCase, playbook } }: Considered): boolean {
  const types = wantedTypes(ofCase)
  return playbook.kinds.some(
    ({ reads, types: serves }) =>
      reads.from === 'copy' &&
      reads.kinds.includes(kind) &&
      (serves === 'all' || types === null || types.some((type) => serves.includes(type))),
  )
}

const wantedTypes = ({ wanted }: Case) => {
  const types = wanted.flatMap(({ type }) => (known(type) ? [type] : []))
  return types.length > 0 ? types : null
}

/** Facts on which the client may still change their mind, by the gate that they close; and how often one does. */
const MINDS: Partial<Record<string, { readonly fact: string; readonly is: (price: number) => unknown }>> = {
  price: { fact: 'limits.money', is: (price) => price },
  'consent-laboratory': { fact: 'consent.laboratory.answer', is: () => 'given' },
  'consent-erase': { fact: 'consent.erase.answer', is: () => 'given' },
}
const CHANGES_MIND = 0.25

/** Where nothing is open: a sum or a consent that alone closes a route is asked for again. */
export function reopening(considered: Considered): PlanQuestion[] {
  const { options, situation } = considered
  const asked = new Map<string, PlanQuestion>()
  for (const { closedBy, chanceFactors, meanShare, binding } of options) {
    const [closing, ...more] = chanceFactors.filter(({ value }) => value[1] <= 0)
    const mind = closing && MINDS[closing.name]
    if (closedBy === null || !mind || more.length > 0 || meanShare[1] <= 0 || closing.fact !== mind.fact) continue
    const is = mind.is(binding.kind.money.look + binding.kind.money.take)
    const allowed = supposing(considered, mind.fact, is)
    const gain = CHANGES_MIND * (allowed?.value ?? 0)
    if (!allowed || (asked.get(mind.fact)?.gain ?? 0) >= gain) continue
    const yes = String(is)
    asked.set(mind.fact, {
      fact: mind.fact,
      asks: asksOf(mind.fact, situation.ofCase),
      gain,
      answers: { [yes]: allowed.share, 'as it is': 0 },
      leads: { [yes]: allowed.leads, 'as it is': null },
      sets: { [yes]: is },
    })
  }
  return [...asked.values()]
}
