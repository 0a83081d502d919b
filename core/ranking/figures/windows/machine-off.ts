import type { Binding } from '../../../playbook/bind'
import type { Situation } from '../../situation/situation'

/** True where the device that makes a copy, or on which it lies, is switched off: no run happens there. */
export function isMachineOff({ copy, device }: Binding, { ofCase }: Situation): boolean {
  return device?.power === 'off' || ofCase.devices.some((one) => one.id === copy?.lies && one.power === 'off')
}
