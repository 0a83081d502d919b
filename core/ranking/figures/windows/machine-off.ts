import type { Binding } from '../../../playbook/bind'
import type { Situation } from '../../situation/situation'

/** True where the device that makes a copy, or on which it lies, is switched off: no run happens there. */
export function isMachineOff({ copy, device }: Binding, { ofCase }: Situation): boolean {
  const place = ofCase.devices.find((one) => one.id === copy?.lies)
  return (
    place?.power === 'off' || (ofCase.devices.find((one) => one.id === device?.id)?.power ?? device?.power) === 'off'
  )
}
