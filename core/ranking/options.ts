import { known } from '../cases/fact'
import { isBareMedium, isHandheld } from '../cases/device'
import { ROW_TYPES } from '../cases/data-types'
import { DAY_MS, spanOf } from '../cases/moment'
import { TYPE_WORDS } from '../cases/words'
import { serves, type Binding } from '../playbook/bind'
import type { Storage } from '../cases/storage'
import type { Axis } from './axis'
import { coverageOf } from './coverage'
import { certain, ONE, product, ZERO, type Estimate } from './estimate'
import { inOrder, type Factor } from './factor'
import { gatesOf } from './gates'
import { oddsOf } from './odds'
import type { Situation } from './situation'
import { survivalOf, type MediumAsked } from './survival'
import { windowOf, type Closing } from './windows'

/** Everything the engine works out about one way of getting items from one copy, before the order is sought. */
export interface RouteOption {
  readonly id: string
  readonly binding: Binding
  readonly title: string
  readonly chanceFactors: readonly Factor[]
  readonly shareFactors: readonly Factor[]
  /** that it can be carried out, begun now; the product of the chance factors */
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
  /** why it can not bring anything, or null while it can */
  readonly closedBy: string | null
}

/** One option for one binding, its figures taken at the situation's now. */
export function optionOf(binding: Binding, axes: readonly Axis[], situation: Situation): RouteOption {
  const { kind } = binding
  const medium = mediumOf(binding)
  const gates = gatesOf(binding, situation)
  const handsOn = kind.time.handsOn + gates.reduce((sum, gate) => sum + gate.cureMinutes, 0)
  const waiting = kind.time.waiting + kind.time.waitingPerGigabyte * (bytesToRead(binding, medium) / 1e9)
  const window = windowOf(binding, medium, handsOn + waiting, situation)
  const windowNow = window.survival(situation.now)
  const works = oddsOf(kind)
  const chanceFactors = inOrder([
    ...gates.map((gate) => gate.factor),
    { name: 'window', value: certain(windowNow), fact: window.fact, says: window.says },
    {
      name: 'works',
      value: works,
      fact: null,
      says: `Works this often when everything is in place: ${kind.prior.note}`,
    },
  ])
  const chance = product(...chanceFactors.map((factor) => factor.value))
  const parts = axes.map((axis) => shareParts(binding, medium, axis, situation))
  const share = parts.map((part) => part.bySlice)
  const shareFactors = mergedShareFactors(parts, axes)
  const meanShare = product(...shareFactors.map((factor) => factor.value))
  return {
    id: binding.id,
    binding,
    title: binding.title,
    chanceFactors,
    shareFactors,
    chance,
    share,
    meanShare,
    window,
    handsOn,
    waiting,
    ...harmOf(binding, situation),
    cures: gates.flatMap((gate) => (gate.cure && gate.cureMinutes > 0 ? [gate.cure] : [])),
    closedBy: closedBy(chanceFactors, shareFactors, binding),
  }
}

function closedBy(chanceFactors: readonly Factor[], shareFactors: readonly Factor[], binding: Binding): string | null {
  const zero = [...chanceFactors, ...shareFactors].find((factor) => factor.value[1] <= 1e-6)
  if (zero) return zero.says
  return binding.kind.prior.chance === 0 ? binding.kind.prior.note : null
}

/** What is read when the storage itself is read. */
export function mediumOf({ kind, copy, device }: Binding): MediumAsked | null {
  if (kind.reads.from !== 'storage') return null
  if (copy)
    return {
      storage: storageOfMedium(copy.storage),
      path: `copies.${copy.id}.storage`,
      device: null,
      isRemovable: true,
    }
  return device
    ? { storage: device.storage, path: `devices.${device.id}.storage`, device, isRemovable: isBareMedium(device) }
    : null
}

const storageOfMedium = (storage: Storage): Storage => (known(storage.kind) ? storage : { ...storage, kind: 'card' })

/** Bytes that have to be read; where nobody knows, what is usual. */
function bytesToRead({ copy, device }: Binding, medium: MediumAsked | null): number {
  const capacity = medium?.storage.capacityBytes
  if (capacity !== undefined && known(capacity)) return capacity
  if (medium) return medium.isRemovable ? 64e9 : device && isHandheld(device) ? 128e9 : 500e9
  return copy && known(copy.bytes) ? copy.bytes : 0
}

interface ShareParts {
  readonly keeps: Estimate
  readonly keepsSays: string
  readonly keepsFact: string | null
  readonly coverage: readonly Estimate[]
  readonly coverageSays: string
  readonly coverageFact: string | null
  readonly survival: Estimate
  readonly survivalSays: string
  readonly survivalFact: string | null
  readonly finds: number
  readonly bySlice: readonly Estimate[]
}

function shareParts(binding: Binding, medium: MediumAsked | null, axis: Axis, situation: Situation): ShareParts {
  const keeps = keepsOf(binding, axis)
  const coverage = coverageOf(binding, axis, situation)
  const survival = medium ? survivalOf(medium, axis.wanted, situation) : { value: ONE, fact: null, says: '' }
  const finds = findsOf(binding, axis, situation)
  return {
    keeps: keeps.value,
    keepsSays: keeps.says,
    keepsFact: keeps.fact,
    coverage: coverage.bySlice,
    coverageSays: coverage.says,
    coverageFact: coverage.fact,
    survival: survival.value,
    survivalSays: survival.says,
    survivalFact: survival.fact,
    finds,
    bySlice: coverage.bySlice.map((value) => product(keeps.value, value, survival.value, certain(finds))),
  }
}

/** Whether what is read keeps the type at all. */
function keepsOf({ kind, copy }: Binding, { wanted }: Axis): { value: Estimate; says: string; fact: string | null } {
  const what = known(wanted.type) ? TYPE_WORDS[wanted.type] : 'what is wanted'
  if (!serves(kind, wanted.type))
    return { value: ZERO, says: `This way brings no ${what}.`, fact: `wanted.${wanted.id}.type` }
  const cloudOnly = known(wanted.lived) && wanted.lived.every((place) => place.place === 'cloud')
  if (kind.brings.by === 'snapshot' && copy && copy.kind.endsWith('-backup') && cloudOnly)
    return {
      value: [0, 0.08, 0.2],
      says: 'A device backup leaves out what a cloud library keeps.',
      fact: `wanted.${wanted.id}.lived`,
    }
  if (copy && known(copy.keeps) && known(wanted.type)) {
    const does = copy.keeps.includes(wanted.type)
    return {
      value: does ? ONE : ZERO,
      says: does ? `It keeps ${what}.` : `It keeps no ${what}.`,
      fact: `copies.${copy.id}.keeps`,
    }
  }
  const prior = (known(wanted.type) ? kind.keeps?.[wanted.type] : undefined) ?? (kind.keeps ? 0.85 : 1)
  return {
    value: prior === 1 ? ONE : [Math.max(0, prior - 0.25), prior, Math.min(1, prior + 0.15)],
    says: prior === 1 ? `It keeps ${what}.` : `Such a copy usually keeps ${what}; nobody looked yet.`,
    fact: copy ? `copies.${copy.id}.keeps` : null,
  }
}

/** Which part of what survived this route can see. */
function findsOf({ kind }: Binding, { wanted }: Axis, { ofCase }: Situation): number {
  const { usual, rows, afterFormat } = kind.finds
  const recordsAreGone = ['formatted', 'reinstalled', 'factory-reset'].includes(ofCase.loss.how)
  if (recordsAreGone && afterFormat !== undefined) return afterFormat
  return known(wanted.type) && ROW_TYPES.includes(wanted.type) && rows !== undefined ? rows : usual
}

/**
 * The share over all wanted items as factors that multiply to it: each is the mean, weighed by worth, of
 * what is left after the ones before it.
 */
function mergedShareFactors(parts: readonly ShareParts[], axes: readonly Axis[]): Factor[] {
  const weights = axes.map((axis) => axis.slices.map((slice) => slice.worth))
  const whole = weights.flat().reduce((sum, weight) => sum + weight, 0)
  const mean = (value: (part: ShareParts, slice: number, index: 0 | 1 | 2) => number): Estimate => {
    const at = (index: 0 | 1 | 2) =>
      whole === 0
        ? 0
        : parts.reduce(
            (sum, part, set) =>
              sum + weights[set]!.reduce((inner, weight, slice) => inner + weight * value(part, slice, index), 0),
            0,
          ) / whole
    return [at(0), at(1), at(2)]
  }
  const stages = [
    mean((part, _, index) => part.keeps[index]),
    mean((part, slice, index) => part.keeps[index] * part.coverage[slice]![index]),
    mean((part, slice, index) => part.keeps[index] * part.coverage[slice]![index] * part.survival[index]),
    mean((part, slice, index) => part.keeps[index] * part.coverage[slice]![index] * part.survival[index] * part.finds),
  ]
  const given = (stage: number): Estimate => {
    const before = stage === 0 ? ONE : stages[stage - 1]!
    const at = (index: 0 | 1 | 2) =>
      before[index] === 0 ? (stages[stage]![index] === 0 && stage > 0 ? 1 : 0) : stages[stage]![index] / before[index]
    return [at(0), at(1), at(2)]
  }
  const leading = parts[leadingPart(parts)]
  if (!leading) return []
  const factors: Factor[] = [
    { name: 'keeps', value: given(0), fact: leading.keepsFact, says: leading.keepsSays },
    { name: 'coverage', value: given(1), fact: leading.coverageFact, says: leading.coverageSays },
    {
      name: 'survival',
      value: given(2),
      fact: leading.survivalFact,
      says: leading.survivalSays || 'Nothing has to survive on a medium for this.',
    },
    { name: 'finds', value: given(3), fact: null, says: 'What such a pass or list finds of what is there.' },
  ]
  return factors.filter((factor) => factor.name !== 'survival' || leading.survivalSays !== '')
}

/** The wanted set that the reasons speak of: the one of which most comes back. */
function leadingPart(parts: readonly ShareParts[]): number {
  const total = (part: ShareParts) =>
    part.bySlice.reduce((sum, value) => sum + value[1], 0) / Math.max(1, part.bySlice.length)
  return parts.reduce((best, part, index) => (total(part) > total(parts[best]!) ? index : best), 0)
}

/** What a whole-device restore destroys: everything made on the device since the backup. */
function harmOf({ kind, copy, device }: Binding, situation: Situation): Pick<RouteOption, 'harm' | 'harmSays'> {
  if (!kind.effects.erasesDevice) return { harm: 0, harmSays: null }
  const taken = copy && known(copy.taken) ? spanOf(copy.taken) : null
  const middle = taken ? (taken.from + taken.to) / 2 : situation.now - 30 * DAY_MS
  const wasErased = ['factory-reset', 'reinstalled'].includes(situation.ofCase.loss.how)
  const since = wasErased ? Math.max(middle, (situation.loss.from + situation.loss.to) / 2) : middle
  const isUnused = situation.ofCase.loss.since.used === 'no' && (wasErased || middle >= situation.loss.from)
  const days = isUnused ? 0 : Math.max(0, (situation.now - since) / DAY_MS)
  const what = device ? 'the device' : 'it'
  const rounded = Math.max(1, Math.round(days))
  return {
    harm: days * situation.playbook.shop.weights.dayOfNewerData,
    harmSays:
      days > 0
        ? `Would erase what was made on ${what} in ${taken ? '' : 'about '}${rounded} ${rounded === 1 ? 'day' : 'days'} since.`
        : `Nothing newer is on ${what}.`,
  }
}

/** The share of a step that brings nothing, slice by slice. */
export function certainlyNothing(axes: readonly Axis[]): Estimate[][] {
  return axes.map((axis) => axis.slices.map(() => ZERO))
}
