import { known } from '../../cases/shape/fact'
import { isBareMedium, isHandheld } from '../../cases/shape/device'
import { ROW_TYPES } from '../../cases/shape/data-types'
import { DAY_MS, spanOf } from '../../cases/shape/moment'
import { TYPE_WORDS } from '../../cases/telling/words'
import { serves, type Binding } from '../../playbook/bind'
import { slownessOf } from '../../playbook/speeds'
import { happenedElsewhere, isFormat, STILL_THERE } from '../../cases/shape/loss'
import type { Storage } from '../../cases/shape/storage'
import type { Axis } from '../situation/axis'
import { coverageOf } from './coverage/coverage'
import type { Coverage } from './coverage/coverage-rule'
import { certain, ONE, product, ZERO, type Estimate } from '../situation/estimate'
import { inOrder, type Factor } from './factor'
import { gatesOf } from './gates'
import { keepsOf } from './keeps'
import { oddsOf, type OddsAsked } from './odds'
import { wasLostBy, type Situation } from '../situation/situation'
import type { MediumAsked, Survival } from './medium'
import { survivalOf } from './survival'
import type { Closing } from './windows/window-rule'
import { waitRange, windowOf } from './windows/windows'

/** Everything that the engine computes about one way of getting items from one copy, before the order is found. */
export interface RouteOption {
  readonly id: string
  readonly binding: Binding
  readonly title: string
  readonly chanceFactors: readonly Factor[]
  readonly shareFactors: () => readonly Factor[]
  /** mean share over all wanted items after each of the share factors in turn, weighed by worth */
  readonly stages: readonly Estimate[]
  /** the chance that it can be carried out if started now; the product of the chance factors */
  readonly chance: Estimate
  /** what it brings if it can, by wanted set and slice, as a share of what the slice holds */
  readonly share: readonly (readonly Estimate[])[]
  /** mean of the share over all wanted items, weighed by their worth */
  readonly meanShare: Estimate
  readonly window: Closing
  readonly handsOn: number
  readonly waiting: number
  /** in money, unless a safety copy takes it away */
  readonly harm: number
  readonly harmSays: string | null
  /** what to do first so that a gate is met */
  readonly cures: readonly string[]
  /** why it cannot bring anything, or null where it can */
  readonly closedBy: string | null
}

/** One option for one binding, its figures taken at the situation's now. */
export function optionOf(binding: Binding, axes: readonly Axis[], situation: Situation): RouteOption {
  const { kind } = binding
  const medium = mediumOf(binding)
  const gates = gatesOf(binding, situation)
  const handsOn = kind.time.handsOn + gates.reduce((sum, gate) => sum + gate.cureMinutes, 0)
  const slowness = medium ? slownessOf(situation.playbook.shop.speeds, String(medium.storage.kind)) : 1
  const reading = kind.time.waitingPerGigabyte * slowness * (bytesToRead(binding, medium) / 1e9)
  const waiting = kind.time.waiting + reading
  const window = windowOf(binding, medium, { handsOn, waiting: waitRange(kind.time.waiting, reading) }, situation)
  const windowNow = window.survival(situation.now)
  const works = oddsOf(kind, askedOf(binding, axes), situation.evidence)
  const chanceFactors: Factor[] = [
    ...inOrder(gates.map((gate) => gate.factor)),
    {
      name: 'window',
      value: certain(windowNow),
      fact: window.fact,
      says: window.says,
    },
    {
      name: 'works',
      value: works,
      fact: null,
      says: () => `Works this often when everything is in place: ${kind.prior.note}`,
    },
  ]
  const parts = axes.map((axis) => shareParts(binding, medium, axis, situation))
  const stages = shareStages(parts, axes)
  const meanShare = stages.at(-1) ?? ZERO
  return {
    id: binding.id,
    binding,
    title: binding.title,
    chanceFactors,
    shareFactors: () => shareFactors(parts, stages, axes),
    stages,
    chance: product(...chanceFactors.map((factor) => factor.value)),
    share: parts.map((part) => part.bySlice),
    meanShare,
    window,
    handsOn,
    waiting,
    ...harmOf(binding, situation),
    cures: gates.flatMap((gate) => (gate.cure && gate.cureMinutes > 0 ? [gate.cure] : [])),
    closedBy: closedBy(chanceFactors, meanShare, parts, stages, binding, axes),
  }
}

/** Which odds apply: those of the device's family, for the wanted type with most at stake. */
function askedOf({ device, kind }: Binding, axes: readonly Axis[]): OddsAsked {
  const atStake = (axis: Axis) => axis.slices.reduce((sum, slice) => sum + slice.worth, 0)
  const served = axes.filter((axis) => serves(kind, axis.wanted.type))
  const leading = served.reduce<Axis | null>((so, axis) => (!so || atStake(axis) > atStake(so) ? axis : so), null)
  return { platform: device?.platform ?? 'unknown', type: leading?.wanted.type ?? 'unknown' }
}

/** A chance or share below this counts as zero. */
const NOTHING = 1e-6

function closedBy(
  chanceFactors: readonly Factor[],
  meanShare: Estimate,
  parts: readonly ShareParts[],
  stages: readonly Estimate[],
  binding: Binding,
  axes: readonly Axis[],
): string | null {
  const zero =
    chanceFactors.find((factor) => factor.value[1] <= NOTHING) ??
    (parts.length > 0 && meanShare[1] <= NOTHING
      ? shareFactors(parts, stages, axes).find((factor) => factor.value[1] <= NOTHING)
      : undefined)
  if (zero) return zero.says()
  return binding.kind.prior.chance === 0 ? binding.kind.prior.note : null
}

/** What is read when the storage itself, or an image of it, is read. */
export function mediumOf({ kind, copy, device }: Binding): MediumAsked | null {
  if (kind.brings.by !== 'storage') return null
  if (copy?.kind === 'disk-image') {
    const taken = known(copy.taken) ? spanOf(copy.taken) : null
    return {
      storage: known(copy.storage.kind) || !device ? copy.storage : device.storage,
      path: `copies.${copy.id}.storage`,
      device: device && isBareMedium(device) ? null : device,
      isRemovable: false,
      until: taken ? (taken.from + taken.to) / 2 : null,
    }
  }
  if (copy)
    return {
      storage: storageOfMedium(copy.storage),
      path: `copies.${copy.id}.storage`,
      device: null,
      isRemovable: true,
      until: null,
    }
  return device
    ? {
        storage: device.storage,
        path: `devices.${device.id}.storage`,
        device,
        isRemovable: isBareMedium(device),
        until: null,
      }
    : null
}

const storageOfMedium = (storage: Storage): Storage => (known(storage.kind) ? storage : { ...storage, kind: 'card' })

/** Bytes that must be read; the usual figure where they are unknown. */
function bytesToRead({ copy, device }: Binding, medium: MediumAsked | null): number {
  const capacity = medium?.storage.capacityBytes
  if (copy?.kind === 'disk-image' && known(copy.bytes)) return copy.bytes
  if (capacity !== undefined && known(capacity)) return capacity
  if (medium) return medium.isRemovable ? 64e9 : device && isHandheld(device) ? 128e9 : 500e9
  return copy && known(copy.bytes) ? copy.bytes : 0
}

interface ShareParts {
  readonly keeps: Survival
  readonly coverage: Coverage
  /** null where nothing has to survive on a medium */
  readonly survival: Survival | null
  readonly finds: number
  readonly bySlice: readonly Estimate[]
}

function shareParts(binding: Binding, medium: MediumAsked | null, axis: Axis, situation: Situation): ShareParts {
  const keeps = keepsOf(binding, axis, situation)
  const coverage = coverageOf(binding, axis, situation)
  const survival = medium ? survivalOf(medium, axis, situation) : null
  const finds = findsOf(binding, axis, situation)
  const bySlice = survival?.bySlice
    ? coverage.bySlice.map((value, slice) => product(value, keeps.value, survival.bySlice![slice]!, certain(finds)))
    : sharesBySlice(coverage.bySlice, product(keeps.value, survival?.value ?? ONE, certain(finds)))
  return { keeps, coverage, survival, finds, bySlice }
}

/**
 * The coverage times the factors that are the same for all slices; slices that share one figure share the product too.
 */
function sharesBySlice(coverage: readonly Estimate[], rest: Estimate): Estimate[] {
  let last: Estimate | null = null
  let so: Estimate = ZERO
  return coverage.map((value) => {
    if (value === last) return so
    last = value
    so = [value[0] * rest[0], value[1] * rest[1], value[2] * rest[2]]
    return so
  })
}

/** The share of what survived that this route can find. */
function findsOf({ kind, copy, device }: Binding, { wanted }: Axis, situation: Situation): number {
  const { ofCase } = situation
  const { usual, rows, afterFormat } = kind.finds
  // What was never deleted has its record and is simply present.
  const isUntouched = kind.brings.by === 'storage' && happenedElsewhere(ofCase.loss.on, copy?.id ?? device?.id)
  if (wasLostBy(situation, STILL_THERE) || isUntouched) return Math.max(usual, 0.98)
  if (isFormat(ofCase.loss.how) && afterFormat !== undefined) return afterFormat
  return known(wanted.type) && ROW_TYPES.includes(wanted.type) && rows !== undefined ? rows : usual
}

/** Mean share over all wanted items, weighed by worth, after each of the four share factors in turn. */
function shareStages(parts: readonly ShareParts[], axes: readonly Axis[]): Estimate[] {
  const stages = Array.from({ length: 4 }, () => [0, 0, 0] as [number, number, number])
  let whole = 0
  for (const [set, { keeps, coverage, survival, finds }] of parts.entries()) {
    const { slices } = axes[set]!
    const covered: [number, number, number] = [0, 0, 0]
    const surviving: [number, number, number] = [0, 0, 0]
    let worths = 0
    for (let slice = 0; slice < slices.length; slice++) {
      const { worth } = slices[slice]!
      const value = coverage.bySlice[slice]!
      const left = survival?.bySlice?.[slice] ?? survival?.value ?? ONE
      worths += worth
      for (let bound = 0; bound < 3; bound++) {
        covered[bound]! += worth * value[bound]!
        surviving[bound]! += worth * value[bound]! * left[bound]!
      }
    }
    whole += worths
    for (const bound of [0, 1, 2] as const) {
      const kept = keeps.value[bound] * covered[bound]
      const survived = keeps.value[bound] * surviving[bound]
      stages[0]![bound] += worths * keeps.value[bound]
      stages[1]![bound] += kept
      stages[2]![bound] += survived
      stages[3]![bound] += survived * finds
    }
  }
  return whole === 0
    ? stages.map(() => ZERO)
    : stages.map(([low, mid, high]) => [low / whole, mid / whole, high / whole])
}

/**
 * The share over all wanted items as factors that multiply to it: each is the mean, weighed by worth, of
 * what is left after the ones before it.
 */
function shareFactors(parts: readonly ShareParts[], stages: readonly Estimate[], axes: readonly Axis[]): Factor[] {
  const leading = parts[leadingPart(parts)]
  if (!leading) return []
  const { keeps, coverage, survival } = leading
  const count = Math.max(1, coverage.bySlice.length)
  const covered = (at: 0 | 1 | 2) => coverage.bySlice.reduce((sum, value) => sum + value[at], 0) / count
  const own = [
    keeps.value,
    [covered(0), covered(1), covered(2)],
    survival?.value ?? ONE,
    certain(leading.finds),
  ] as const
  const { type } = axes[leadingPart(parts)]!.wanted
  // The reason is that of one set; where the others differ, the figure of all is another.
  const differs =
    parts.length > 1 && Math.abs(covered(1) - (stages[1]![1] / (stages[0]![1] || 1) || covered(1))) > DIFFERS
  const ofWhich = (words: string) =>
    differs && known(type) ? `${words.replace(/\.$/, '')} (${TYPE_WORDS[type]}).` : words
  // After a factor of 0 nothing is left of which a part could be taken: the next one stands as it is by itself.
  const given = (stage: number): Estimate => {
    const before = stage === 0 ? ONE : stages[stage - 1]!
    const at = (index: 0 | 1 | 2) => (before[index] === 0 ? own[stage]![index] : stages[stage]![index] / before[index])
    return [at(0), at(1), at(2)]
  }
  const onMedium: Factor[] = survival
    ? [{ name: 'survival', value: given(2), fact: survival.fact, says: survival.says }]
    : []
  return [
    { name: 'keeps', value: given(0), fact: keeps.fact, says: () => keptWords(keeps, parts, axes) },
    { name: 'coverage', value: given(1), fact: coverage.fact, says: () => ofWhich(coverage.says()) },
    ...onMedium,
    { name: 'finds', value: given(3), fact: null, says: () => 'The share of existing items that this method finds.' },
  ]
}

/** The wanted set that the reasons refer to: the one of which most comes back, or that the route can bring at all. */
function leadingPart(parts: readonly ShareParts[]): number {
  const total = ({ bySlice }: ShareParts) =>
    bySlice.reduce((sum, value) => sum + value[1], 0) / Math.max(1, bySlice.length)
  const isMore = (one: ShareParts, other: ShareParts) =>
    total(one) > total(other) || (total(one) === total(other) && one.keeps.value[1] > other.keeps.value[1])
  return parts.reduce((best, part, index) => (isMore(part, parts[best]!) ? index : best), 0)
}

/** Where the figure of the leading set is further from that of all than this, it is said of which set the reason is. */
const DIFFERS = 0.1

/** What is said of the leading set, and which of the others are left out. */
function keptWords(keeps: Survival, parts: readonly ShareParts[], axes: readonly Axis[]): string {
  const left = parts.flatMap((part, set) => (part.keeps.value[1] === 0 ? [axes[set]!.wanted.type] : []))
  const words = [...new Set(left)].flatMap((type) => (known(type) ? [TYPE_WORDS[type]] : []))
  return keeps.value[1] === 0 || words.length === 0
    ? keeps.says()
    : `${keeps.says()} It brings no ${words.join(' and no ')}.`
}

/** The share of a day's new data that belongs to the type that is turned back. */
const ONE_KIND = 0.3

/** What a step destroys: everything created on the device since the backup, or the newer data of one type. */
function harmOf({ kind, copy, device }: Binding, situation: Situation): Pick<RouteOption, 'harm' | 'harmSays'> {
  const { erasesDevice, turnsBack } = kind.effects
  if (!erasesDevice && !turnsBack) return { harm: 0, harmSays: null }
  const days = turnsBack ? daysSince(situation.loss.from, situation) : daysErased(copy, situation)
  const what = device ? 'the device' : 'it'
  const rounded = Math.max(1, Math.round(days))
  const about = !turnsBack && copy && known(copy.taken) ? '' : 'about '
  return {
    harm: days * situation.playbook.shop.weights.dayOfNewerData * (turnsBack ? ONE_KIND : 1),
    harmSays:
      days > 0
        ? turnsBack
          ? `Would replace what is newer of this kind, of ${about}${rounded} ${rounded === 1 ? 'day' : 'days'}.`
          : `Would erase what was made on ${what} in ${about}${rounded} ${rounded === 1 ? 'day' : 'days'} since.`
        : `Nothing newer is on ${what}.`,
  }
}

const daysSince = (time: number, { now }: Situation) => Math.max(0, (now - time) / DAY_MS)

/** Days of newer data that a whole-device restore would erase. */
function daysErased(copy: Binding['copy'], situation: Situation): number {
  const taken = copy && known(copy.taken) ? spanOf(copy.taken) : null
  const middle = taken ? (taken.from + taken.to) / 2 : situation.now - 30 * DAY_MS
  const wasErased = wasLostBy(situation, ['factory-reset', 'reinstalled'])
  const since = wasErased ? Math.max(middle, (situation.loss.from + situation.loss.to) / 2) : middle
  const isUnused = situation.ofCase.loss.since.used === 'no' && (wasErased || middle >= situation.loss.from)
  return isUnused ? 0 : daysSince(since, situation)
}

/** The share of a step that brings nothing, slice by slice. */
export function certainlyNothing(axes: readonly Axis[]): Estimate[][] {
  return axes.map((axis) => axis.slices.map(() => ZERO))
}
