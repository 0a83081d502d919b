import { deviceWords } from '../cases/words'
import { RouteKind } from '../playbook/route-kind'
import type { Binding } from '../playbook/bind'
import type { Axis } from './axis'
import { certain, product } from './estimate'
import { gatesOf } from './gates'
import { certainlyNothing, type RouteOption } from './options'
import { SAFETY } from './plan-shape'
import type { Situation } from './situation'
import { NEVER } from './windows'
import { PASSCODE, WORKING } from '../playbook/kinds/gates'

/**
 * What a safety copy is made of. It brings nothing itself, so it is no route of the playbook; it is a
 * step that has to come before anything that erases the device.
 */
const SAFETY_COPY = RouteKind.parse({
  id: SAFETY,
  family: 'look',
  title: 'Safety copy of {device}, in a place of its own',
  says: 'Keeps what is on the device today, so that a restore destroys nothing.',
  reads: { from: 'device', platforms: [] },
  types: 'all',
  brings: { by: 'place', share: [0, 0, 0] },
  finds: { usual: 0 },
  gates: [WORKING, PASSCODE],
  window: { rule: 'open' },
  time: { handsOn: 10, waiting: 50, occupies: true },
  money: { look: 0, take: 0 },
  prior: { chance: 0.96, weight: 20, note: 'A copy of a working device fails for lack of room or a bad cable.' },
  holds: ['keep-slot'],
  sheet: {
    ready: ['Room for the whole device, on a disk of the shop', 'A place that replaces no backup the client has'],
    steps: [
      'Make a complete copy of the device as it is now.',
      'Open the copy and check date, device and size.',
      'Write down where it lies.',
    ],
    lookFor: ['That the old backup is still there afterwards'],
    stopIf: ['The copy would take the place of a backup that is wanted'],
  },
})

/** What to do for a safety copy, as on the sheet of any other step. */
export const SAFETY_SHEET = SAFETY_COPY.sheet

/** The safety copy that has to come before the given destructive option, as an option of its own. */
export function safetyCopyBefore(
  destructive: RouteOption,
  axes: readonly Axis[],
  situation: Situation,
): RouteOption | null {
  const { device } = destructive.binding
  if (!device) return null
  const name = deviceWords(device)
  const binding: Binding = {
    id: `${SAFETY}:${device.id}`,
    kind: SAFETY_COPY,
    copy: null,
    device,
    source: `${SAFETY}/${device.id}`,
    title: SAFETY_COPY.title.replace('{device}', name),
    fits: 'sure',
  }
  const gates = gatesOf(binding, situation)
  const chanceFactors = [
    ...gates.map((gate) => gate.factor),
    { name: 'works' as const, value: certain(SAFETY_COPY.prior.chance), fact: null, says: SAFETY_COPY.prior.note },
  ]
  const chance = product(...chanceFactors.map((factor) => factor.value))
  return {
    id: binding.id,
    binding,
    title: binding.title,
    chanceFactors,
    shareFactors: [],
    chance,
    share: certainlyNothing(axes),
    meanShare: certain(0),
    window: NEVER,
    handsOn: SAFETY_COPY.time.handsOn,
    waiting: SAFETY_COPY.time.waiting,
    harm: 0,
    harmSays: null,
    cures: [],
    closedBy: chance[1] <= 1e-6 ? (gates.find((gate) => gate.factor.value[1] === 0)?.factor.says ?? null) : null,
  }
}
