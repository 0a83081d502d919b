import type { Device } from '../../cases/shape/device'
import { known } from '../../cases/shape/fact'
import { deviceWords } from '../../cases/telling/words'
import type { Binding } from '../../playbook/bind'
import { PASSCODE, WORKING } from '../../playbook/kinds/shared'
import { RouteKind, type GateName, type RouteKindInput } from '../../playbook/kinds/route-kind'
import { priceOf, type PriceList } from '../../playbook/prices'
import { repairById, repairOf, repairOutcome, runsAfter, type Repair } from '../../playbook/repairs'
import type { Axis } from '../situation/axis'
import { certain, product, ZERO } from '../situation/estimate'
import { gatesOf } from '../figures/gates'
import { certainlyNothing, type RouteOption } from '../figures/options'
import { CONSENT, REPAIR, SAFETY } from '../situation/plan-shape'
import { keptWith } from '../situation/kept-by'
import type { Situation } from '../situation/situation'
import { NEVER } from '../figures/windows/window-rule'

/**
 * Steps that bring nothing themselves but must come before others: the safety copy of a device, of one type of data,
 * and the client's consent. They are no routes of the playbook.
 */
const step = (kind: Pick<RouteKindInput, 'id' | 'title' | 'says' | 'gates' | 'time' | 'prior' | 'holds' | 'sheet'>) =>
  RouteKind.parse({
    family: 'look',
    reads: { from: 'device', platforms: [] },
    types: 'all',
    brings: { by: 'nothing' },
    finds: { usual: 0 },
    window: { rule: 'open' },
    money: { look: 0, take: 0 },
    ...kind,
  })

const SAFETY_COPY = step({
  id: SAFETY,
  title: 'Safety copy of {device}, in a place of its own',
  says: 'Keeps what is on the device today, so that a restore destroys nothing.',
  gates: [WORKING, PASSCODE],
  time: { handsOn: 10, waiting: 50, occupies: true },
  prior: { chance: 0.96, weight: 20, note: 'A copy of a working device fails for lack of room or a bad cable.' },
  holds: ['keep-slot'],
  sheet: {
    ready: ['Room for the whole device, on a disk of the shop', 'A place that replaces no backup the client has'],
    steps: [
      'Make a complete copy of the device as it is now.',
      'Open the copy and check date, device and size.',
      'Write down where it is stored.',
    ],
    lookFor: ['That the old backup is still there afterwards'],
    stopIf: ['The copy would take the place of a backup that is wanted'],
  },
})

const EXPORT_OF_TODAY = step({
  id: SAFETY,
  title: 'Save today’s list before turning back',
  says: 'Keeps what is newer, so that turning back replaces nothing.',
  gates: [],
  time: { handsOn: 3, waiting: 2, occupies: true },
  prior: {
    chance: 0.97,
    weight: 20,
    note: 'An export of a list is quick; it fails where the account is not the right one.',
  },
  holds: ['stop-sync'],
  sheet: {
    ready: ['Room on the shelf'],
    steps: [
      'Export all of today’s entries in an open format to the shelf.',
      'Open the export and compare the count.',
      'Write down where it is stored.',
    ],
    lookFor: ['Entries made after the loss: they are in no older state'],
    stopIf: ['The export is empty or incomplete'],
  },
})

const askFor = (gate: 'consent-erase' | 'consent-laboratory') =>
  step({
    id: CONSENT,
    title: 'The client’s consent',
    says: 'Without the client’s recorded consent it does not start.',
    gates: [{ gate }],
    time: { handsOn: 3, waiting: 0, occupies: false },
    prior: { chance: 1, weight: 20, note: 'Asking works; the answer is the client’s.' },
    holds: [],
    sheet: {
      ready: ['What it would erase or show, in a sentence', 'The client, at the counter or on the phone'],
      steps: ['Say what it would do, what is safe, and what else there is.', 'Record who agreed, and when.'],
      lookFor: [],
      stopIf: ['Whoever answers is not the owner of the data'],
    },
  })

const ASK_FOR = { erase: askFor('consent-erase'), laboratory: askFor('consent-laboratory') }

/** The instructions for each of these steps, as on a run sheet. */
export function preparationSheet(optionId: string, family: string): RouteKind['sheet'] | null {
  if (family === CONSENT) return ASK_FOR.erase.sheet
  const repair = repairById(family)
  if (repair) return repairStep(repair).sheet
  if (family !== SAFETY) return null
  return optionId.startsWith(`${SAFETY}:d`) ? SAFETY_COPY.sheet : EXPORT_OF_TODAY.sheet
}

/** True for steps that bring nothing themselves. */
export function isPreparation({ binding }: Pick<RouteOption, 'binding'>): boolean {
  const { id } = binding.kind
  return id === SAFETY || id === CONSENT || id.startsWith(`${REPAIR}-`)
}

/** The family as which such a step is shown. */
export function preparationFamily(kindId: string): typeof SAFETY | typeof CONSENT | typeof REPAIR {
  return kindId === SAFETY ? SAFETY : kindId === CONSENT ? CONSENT : REPAIR
}

/** The gates of a route that one of its preparations meets, where that works. */
export function gatesMetBy(preparation: RouteOption): readonly GateName[] {
  const { kind } = preparation.binding
  return preparationFamily(kind.id) === REPAIR
    ? ['working']
    : kind.gates.map(({ gate }) => gate).filter((gate) => gate.startsWith('consent-'))
}

/** What makes the device run that a route needs running; null where it does, or where it was repaired. */
function repairFor({ binding }: RouteOption, { ofCase }: Situation): Repair | null {
  const { kind, copy, device } = binding
  const needsIt = kind.gates.some(({ gate }) => gate === 'working') && copy?.kind !== 'medium'
  return needsIt && device && repairOutcome(ofCase, device.id) === null ? repairOf(device) : null
}

/** The ids of the steps that must come before a route, where they are needed at all. */
export function preparationsOf(option: RouteOption, situation: Situation): string[] {
  const { kind } = option.binding
  if (isPreparation(option)) return []
  const needed: string[] = []
  if (repairFor(option, situation)) needed.push(`${REPAIR}:${option.binding.device!.id}`)
  const asked = consentOf(option)
  if (asked && !known(situation.ofCase.consent[asked].answer)) needed.push(`${CONSENT}-${asked}:${sourceOf(option)}`)
  if (kind.effects.needsSafetyCopy && option.harm > 0) needed.push(`${SAFETY}:${sourceOf(option)}`)
  return needed
}

/** Which consent a route needs, if any. */
function consentOf({ binding }: RouteOption): 'erase' | 'laboratory' | null {
  if (binding.kind.gates.some((gate) => gate.gate === 'consent-erase')) return 'erase'
  return binding.kind.gates.some((gate) => gate.gate === 'consent-laboratory') ? 'laboratory' : null
}

/** What is erased or turned back: the whole device, or one copy's kind of data. */
function sourceOf({ binding }: RouteOption): string {
  const isWhole = !binding.kind.effects.turnsBack && binding.device !== null
  return isWhole ? binding.device!.id : (binding.copy?.id ?? binding.source)
}

/** The steps that must come before this route, as options of their own. */
export function preparationsFor(option: RouteOption, axes: readonly Axis[], situation: Situation): RouteOption[] {
  return preparationsOf(option, situation).map((id) => {
    const repair = id.startsWith(`${REPAIR}:`) ? repairFor(option, situation) : null
    if (repair)
      return preparationOf(repairBinding(repair, id, option.binding.device!, situation.playbook), axes, situation)
    const isConsent = id.startsWith(CONSENT)
    const isErase = id.startsWith(`${CONSENT}-erase`)
    const kind = isConsent
      ? ASK_FOR[isErase ? 'erase' : 'laboratory']
      : option.binding.kind.effects.turnsBack
        ? EXPORT_OF_TODAY
        : SAFETY_COPY
    const device = option.binding.device
    const name = device ? deviceWords(device) : 'the device'
    const title = isConsent
      ? isErase
        ? `Ask whether ${name} may be erased`
        : 'Ask whether a laboratory may have it'
      : kind.title.replace('{device}', name)
    return preparationOf({ id, kind, copy: null, device, source: id, title, fits: 'sure' }, axes, situation)
  })
}

/** A repair as a step, without its price. */
const repairStep = keptWith((repair: Repair) =>
  step({
    id: repair.id,
    title: repair.title,
    says: repair.says,
    gates: [],
    time: { handsOn: repair.handsOn, waiting: repair.waiting, occupies: false },
    prior: { chance: runsAfter(repair)[1], weight: 8, note: repair.note },
    holds: [],
    sheet: {
      ready: [...repair.sheet.ready],
      steps: [...repair.sheet.steps],
      lookFor: [...repair.sheet.lookFor],
      stopIf: [...repair.sheet.stopIf],
    },
  }),
)

/** A repair at the shop's price; what is exchanged is paid where the device cannot be used as it is. */
function repairBinding(repair: Repair, id: string, device: Device, list: PriceList): Binding {
  const title = repair.title.replace('{device}', deviceWords(device))
  const price = priceOf(list, repair.id) ?? 0
  const kind = { ...repairStep(repair), money: { look: Math.round((1 - repair.asItIs[1]) * price), take: 0 } }
  return { id, kind, copy: null, device, source: id, title, fits: 'sure' }
}

/** A preparing step as an option, its figures taken in the given situation. */
export function preparationOf(binding: Binding, axes: readonly Axis[], situation: Situation): RouteOption {
  const { kind } = binding
  const gates = gatesOf(binding, situation)
  const chanceFactors = [
    ...gates.map((gate) => gate.factor),
    { name: 'works' as const, value: certain(kind.prior.chance), fact: null, says: () => kind.prior.note },
  ]
  const chance = product(...chanceFactors.map((factor) => factor.value))
  return {
    id: binding.id,
    binding,
    title: binding.title,
    chanceFactors,
    shareFactors: () => [],
    stages: [],
    chance,
    share: certainlyNothing(axes),
    meanShare: ZERO,
    window: NEVER,
    handsOn: kind.time.handsOn,
    waiting: kind.time.waiting,
    harm: 0,
    harmSays: null,
    cures: [],
    closedBy: chance[1] <= 1e-6 ? (gates.find((gate) => gate.factor.value[1] === 0)?.factor.says() ?? null) : null,
  }
}
