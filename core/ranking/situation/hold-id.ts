import type { Case } from '../../cases/shape/case'

/** The id of a kind of hold on one device: the kind itself on the first one, as in older cases. */
export function holdIdOn(kind: string, deviceId: string, { devices }: Pick<Case, 'devices'>): string {
  return deviceId === devices[0]?.id ? kind : `${kind}-${deviceId}`
}
