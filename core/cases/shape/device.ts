import { z } from 'zod'
import type { DataType } from './data-types'
import { choice, fact, name, partId, yesNo } from './fact'
import { Moment } from './moment'
import { Storage } from './storage'

export const DEVICE_KINDS = [
  'phone',
  'tablet',
  'laptop',
  'desktop',
  'server',
  'camera',
  'recorder',
  'card',
  'stick',
  'external-disk',
] as const
export type DeviceKind = (typeof DEVICE_KINDS)[number]

/** Families of platforms; makers and models are the shop's own free text. */
export const PLATFORMS = [
  'closed-phone',
  'open-phone',
  'desktop-pc',
  'maker-desktop',
  'unix-desktop',
  'camera',
  'recorder',
  'removable',
] as const
export type Platform = (typeof PLATFORMS)[number]

export const BIN_NAMES = ['photos', 'notes', 'files', 'messages', 'mail'] as const
export type BinName = (typeof BIN_NAMES)[number]

/** The bin through which each type of data goes on a device; types without one are missing. */
export const BIN_OF: Partial<Record<DataType, BinName>> = {
  photos: 'photos',
  videos: 'photos',
  notes: 'notes',
  documents: 'files',
  spreadsheets: 'files',
  files: 'files',
  audio: 'files',
  messages: 'messages',
  mail: 'mail',
}

export const CONDITIONS = [
  'working',
  'cracked',
  'touch-dead',
  'system-crashed',
  'wet',
  'no-power',
  'clicking',
  'gone',
] as const

const bin = choice(['on', 'off', 'emptied'])

export const Device = z.object({
  id: partId,
  kind: choice(DEVICE_KINDS),
  platform: choice(PLATFORMS),
  /** maker and model as people say them */
  make: fact(name(80)),
  storage: Storage.prefault({}),
  lock: choice(['unlocked', 'locked', 'none']),
  passcode: choice(['known', 'not-known']),
  /** wrong codes that have been entered so far */
  wrongCodes: fact(z.int().min(0, 'is below zero').max(1000)),
  condition: choice(CONDITIONS),
  /** whether it got wet, whatever else is wrong with it */
  wet: choice(['wet', 'dried', 'no']),
  /** whether it is switched on now; a device that is off runs no timer and no backup */
  power: choice(['on', 'off']),
  offSince: fact(Moment),
  /** whether it answers a computer by cable: its debugging switch is on, or it trusts a computer of the client */
  cable: choice(['ready', 'refused']),
  /** whether another device of the same kind is at hand, onto which a backup can be restored */
  spare: yesNo,
  /** whether each bin on the device was switched on before the loss, or has been emptied since */
  bins: z.object({ photos: bin, notes: bin, files: bin, messages: bin, mail: bin }).prefault({}),
})
export type Device = z.infer<typeof Device>

const HANDHELD: readonly string[] = ['phone', 'tablet']
const COMPUTER: readonly string[] = ['laptop', 'desktop', 'server']
const BARE_MEDIUM: readonly string[] = ['card', 'stick', 'external-disk', 'camera', 'recorder']

/** True for phones and tablets. */
export function isHandheld(device: Pick<Device, 'kind' | 'platform'>): boolean {
  return HANDHELD.includes(device.kind) || device.platform === 'closed-phone' || device.platform === 'open-phone'
}

/** True for laptops, desktops and servers. */
export function isComputer(device: Pick<Device, 'kind' | 'platform'>): boolean {
  return COMPUTER.includes(device.kind) || device.platform.endsWith('desktop') || device.platform === 'desktop-pc'
}

/** True for media that can be removed and read elsewhere, and for what records onto them. */
export function isBareMedium(device: Pick<Device, 'kind' | 'platform'>): boolean {
  return BARE_MEDIUM.includes(device.kind) || device.platform === 'removable'
}

/** The usual storage of such a device, for when nobody has said. */
export function usualStorageKind(device: Pick<Device, 'kind' | 'platform'>): Storage['kind'] {
  if (isHandheld(device)) return 'phone-flash'
  if (device.kind === 'stick') return 'stick'
  if (device.kind === 'card' || device.kind === 'camera' || device.kind === 'recorder') return 'card'
  if (device.kind === 'external-disk') return 'spinning-disk'
  return 'unknown'
}
