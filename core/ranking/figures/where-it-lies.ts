import type { Case } from '../../cases/shape/case'
import { isComputer, type Device } from '../../cases/shape/device'
import { known } from '../../cases/shape/fact'
import { TAKE_WHAT_LIES_THERE } from '../../cases/shape/loss'
import { copyWords, deviceWords } from '../../cases/telling/words'
import type { Binding } from '../../playbook/bind'
import { repairOf, repairOutcome, runsAfter } from '../../playbook/repairs'
import type { Estimate } from '../situation/estimate'

/** What the facts say of a gate, with its sentence for each state. */
export interface Reading {
  readonly met: 'yes' | 'no' | 'unknown' | Estimate
  readonly fact: string | null
  readonly yes: string
  readonly no: string
  readonly unknown: string
}

/** Whether a copy that lies on a device or medium of the case went with it, or can be read there. */
export function whereItLies(binding: Binding, ofCase: Case): Reading {
  const lies = binding.copy?.lies ?? 'unknown'
  const fact = binding.copy ? `copies.${binding.copy.id}.lies` : null
  const reading = (met: Reading['met'], says: string): Reading => ({ met, fact, yes: says, no: says, unknown: says })
  if (lies === 'apart') return reading('yes', 'It lies apart from what was lost.')
  const medium = ofCase.copies.find((copy) => copy.id === lies)
  if (medium)
    return medium.exists === 'no'
      ? reading('no', `It lay on ${copyWords(medium)}, which is gone.`)
      : reading('yes', `It lies on ${copyWords(medium)}.`)
  const device = ofCase.devices.find((one) => one.id === lies)
  if (!device) return reading('yes', 'Where it lies is not in the way.')
  const name = deviceWords(device)
  const { on, how } = ofCase.loss
  const isLost = known(on) ? on.includes(device.id) : device === ofCase.devices[0]
  if (isLost && TAKE_WHAT_LIES_THERE.includes(how))
    return reading('no', `It lay on ${name} and went with everything else on it.`)
  if (isLost && how === 'malware')
    return reading([0.02, 0.15, 0.35], `It lies on ${name}, where the malware reached it too.`)
  if (device.condition === 'working') return reading('yes', `It lies on ${name}.`)
  if (!known(device.condition))
    return reading(readIfUnknown(device), `It lies on ${name}; it is not known whether that works.`)
  if (device.condition === 'gone') return reading('no', `It lay on ${name}, which is gone.`)
  if (device.condition === 'clicking') return reading('no', `It lies on ${name}, whose moving parts are damaged.`)
  const repair = repairOf(device)
  const outcome = repair ? repairOutcome(ofCase, device.id) : null
  // A route that needs the device running has to pass that gate anyway.
  const isAsked = binding.kind.gates.some(({ gate }) => gate === 'working') && binding.device?.id === device.id
  if (isAsked || outcome === 'worked') return reading('yes', `It lies on ${name}.`)
  const takenOut = isComputer(device) ? TAKEN_OUT[device.condition] : undefined
  return reading(
    takenOut ?? (repair && outcome === null ? runsAfter(repair) : ([0.03, 0.1, 0.25] as const)),
    `It lies on ${name}, which does not work as it should.`,
  )
}

/** Of a device in unknown condition: it works, or what lies on it can be read otherwise. */
function readIfUnknown(device: Device): Estimate {
  const repair = repairOf({ ...device, condition: 'no-power' })
  const otherwise = (isComputer(device) ? TAKEN_OUT['no-power'] : repair && runsAfter(repair)) ?? [0, 0, 0]
  const of = (at: 0 | 1 | 2) => WORKS[at] + (1 - WORKS[at]) * otherwise[at]
  return [of(0), of(1), of(2)]
}

/** How likely a device works of which nobody said so. */
const WORKS: Estimate = [0.7, 0.9, 0.98]

/** Of a computer that does not run, the disk can be read in another. */
const TAKEN_OUT: Partial<Record<string, Estimate>> = {
  'no-power': [0.7, 0.88, 0.96],
  wet: [0.3, 0.55, 0.75],
  cracked: [0.8, 0.93, 0.98],
  'touch-dead': [0.8, 0.93, 0.98],
  'system-crashed': [0.8, 0.93, 0.98],
}
