import type { Case } from '../../cases/shape/case'
import type { Copy } from '../../cases/shape/copy'
import type { Device } from '../../cases/shape/device'
import { known } from '../../cases/shape/fact'
import { happenedElsewhere } from '../../cases/shape/loss'
import { TYPE_WORDS } from '../../cases/telling/words'
import { serves, type Binding } from '../../playbook/bind'
import type { Axis } from '../situation/axis'
import { ONE, ZERO } from '../situation/estimate'
import { wasLostBy, type Situation } from '../situation/situation'
import type { Survival } from './medium'

/** Whether what is read keeps the type at all. */
export function keepsOf({ kind, copy, device }: Binding, { wanted }: Axis, situation: Situation): Survival {
  const what = known(wanted.type) ? TYPE_WORDS[wanted.type] : 'what is wanted'
  if (kind.losses && known(situation.ofCase.loss.how) && !wasLostBy(situation, kind.losses))
    return { value: ZERO, fact: 'loss.how', says: () => 'This route does not help after such a loss.' }
  if (!serves(kind, wanted.type))
    return { value: ZERO, fact: `wanted.${wanted.id}.type`, says: () => `This route cannot recover ${what}.` }
  if (copy === null && device && isGone(device, situation.ofCase))
    return { value: ZERO, fact: `devices.${device.id}.condition`, says: () => 'The device itself is gone.' }
  if (copy === null && kind.brings.by === 'bin' && happenedElsewhere(situation.ofCase.loss.on, device?.id))
    return { value: ZERO, fact: 'loss.on', says: () => 'It did not happen on this device.' }
  const elsewhere = onAnother(kind, copy, device, wanted, situation.ofCase)
  if (elsewhere) return { value: ZERO, fact: `wanted.${wanted.id}.on`, says: () => elsewhere }
  if (wanted.placeholders === 'yes' && (copy === null || copy.kind === 'medium'))
    return {
      value: ZERO,
      fact: `wanted.${wanted.id}.placeholders`,
      says: () => 'There were only placeholders on the device; the content was in the cloud.',
    }
  const cloudOnly = known(wanted.lived) && wanted.lived.every((place) => place.place === 'cloud')
  if (kind.brings.by === 'snapshot' && copy && isDeviceBackup(copy) && cloudOnly)
    return {
      value: [0, 0.08, 0.2],
      fact: `wanted.${wanted.id}.lived`,
      says: () => 'A device backup leaves out what a cloud library keeps.',
    }
  if (copy && known(copy.keeps) && known(wanted.type)) {
    const does = copy.keeps.includes(wanted.type)
    return {
      value: does ? ONE : ZERO,
      fact: `copies.${copy.id}.keeps`,
      says: () => (does ? `It keeps ${what}.` : `It keeps no ${what}.`),
    }
  }
  const prior = (known(wanted.type) ? kind.keeps?.[wanted.type] : undefined) ?? (kind.keeps ? 0.85 : 1)
  return {
    value: prior === 1 ? ONE : [Math.max(0, prior - 0.25), prior, Math.min(1, prior + 0.15)],
    fact: copy ? `copies.${copy.id}.keeps` : null,
    says: () => (prior === 1 ? `It keeps ${what}.` : `Such a copy usually keeps ${what}; nobody has checked yet.`),
  }
}

/** True for a device that is no longer there, by its condition or because everything on it went with it. */
function isGone({ id, condition }: Device, { loss, devices }: Case): boolean {
  if (known(condition)) return condition === 'gone'
  return loss.how === 'device-gone' && (known(loss.on) ? loss.on.includes(id) : devices[0]?.id === id)
}

/** Why a device or medium that is read itself cannot have the set: it is said to have been on others. Else null. */
function onAnother(
  kind: Binding['kind'],
  copy: Binding['copy'],
  device: Binding['device'],
  { on }: Axis['wanted'],
  { devices, copies }: Case,
): string | null {
  const read = copy === null ? device?.id : copy.kind === 'medium' ? copy.id : undefined
  if (!known(on) || read === undefined || on.includes(read) || kind.reads.from === 'copy') return null
  // What was said of a part that has been removed since says nothing of the others.
  const isThere = [...devices, ...copies].some(({ id }) => on.includes(id))
  return isThere ? 'They were on another device or medium.' : null
}

const isDeviceBackup = ({ kind }: Copy) => kind.endsWith('-backup') || kind === 'trusted-computer'
