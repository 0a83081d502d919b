import type { Case } from '../../cases/shape/case'
import { isComputer } from '../../cases/shape/device'
import { known } from '../../cases/shape/fact'
import { TAKE_WHAT_LIES_THERE } from '../../cases/shape/loss'
import { copyWords, deviceWords } from '../../cases/telling/words'
import type { Binding } from '../../playbook/bind'
import type { Estimate } from '../situation/estimate'
import { HALF_WORKING } from './half-known'

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
  if (device.condition === 'working' || !known(device.condition)) return reading('yes', `It lies on ${name}.`)
  if (device.condition === 'gone') return reading('no', `It lay on ${name}, which is gone.`)
  if (device.condition === 'clicking') return reading('no', `It lies on ${name}, whose moving parts are damaged.`)
  const isTakenOut = isComputer(device)
  const chances: Partial<Record<string, Estimate>> = isTakenOut
    ? { 'no-power': [0.7, 0.88, 0.96], wet: [0.3, 0.55, 0.75] }
    : { 'no-power': [0.03, 0.1, 0.25], wet: [0.1, 0.3, 0.55], ...HALF_WORKING }
  return reading(
    chances[device.condition] ?? [0.8, 0.93, 0.98],
    `It lies on ${name}, which does not work as it should.`,
  )
}
