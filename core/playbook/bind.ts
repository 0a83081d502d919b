import { known, type Fact } from '../cases/shape/fact'
import type { Case } from '../cases/shape/case'
import type { Copy } from '../cases/shape/copy'
import type { DataType } from '../cases/shape/data-types'
import { isBareMedium, isComputer, isHandheld, type Device, type Platform } from '../cases/shape/device'
import { copyWords, deviceWords } from '../cases/telling/words'
import type { Playbook } from './playbook'
import { pricedKinds } from './prices'
import type { RouteKind } from './kinds/route-kind'

/** A kind of route bound to one case and to one copy, or to one device where it reads that itself. */
export interface Binding {
  readonly id: string
  readonly kind: RouteKind
  readonly copy: Copy | null
  readonly device: Device | null
  /** id of what is read, shared by all routes that read it */
  readonly source: string
  readonly title: string
  /** how certain it is that the device belongs to the family that the kind needs */
  readonly fits: 'sure' | 'perhaps'
}

/**
 * Every route option of a case: each kind of the playbook on each copy that it can read, where it serves at least one
 * of the wanted types. Whether it can work at all is not decided here.
 */
export function bindingsOf(ofCase: Case, playbook: Playbook): Binding[] {
  return pricedKinds(playbook)
    .filter((kind) => servesWanted(kind, ofCase) && fitsLoss(kind, ofCase) && hasSpare(kind, ofCase))
    .flatMap((kind) => sourcesOf(kind, ofCase))
}

/** True where the kind can bring that type; an unknown type is served by every kind. */
export function serves(kind: RouteKind, type: Fact<DataType>): boolean {
  return !known(type) || kind.types === 'all' || kind.types.includes(type)
}

/** An unknown way of losing fits every kind but those for what is not lost yet. */
function fitsLoss({ losses }: RouteKind, { loss }: Case): boolean {
  if (!losses) return true
  return known(loss.how) ? losses.includes(loss.how) : losses.some((how) => how !== 'not-lost-yet')
}

/** A route onto a spare device is offered unless it is known that there is none. */
const hasSpare = ({ gates }: RouteKind, { devices }: Case) =>
  !gates.some(({ gate }) => gate === 'spare') || devices.length === 0 || devices.some(({ spare }) => spare !== 'no')

function servesWanted(kind: RouteKind, ofCase: Case): boolean {
  return ofCase.wanted.some((set) => serves(kind, set.type))
}

function sourcesOf(kind: RouteKind, ofCase: Case): Binding[] {
  const { reads } = kind
  if (reads.from === 'copy')
    return ofCase.copies.filter((copy) => reads.kinds.includes(copy.kind)).map((copy) => onCopy(kind, copy, ofCase))
  if (reads.from === 'device') {
    return ofCase.devices.flatMap((device) => {
      const fits = fitsPlatform(device, reads.platforms)
      const isKind = !reads.devices || !known(device.kind) || reads.devices.includes(device.kind)
      return fits && isKind ? [onDevice(kind, device, fits)] : []
    })
  }
  const devices = ofCase.devices
    .filter((device) => known(device.kind) && reads.devices.includes(device.kind))
    .map((device) => onDevice(kind, device, 'sure'))
  const media = ofCase.copies.filter((copy) => copy.kind === 'medium' && readsMedium(reads.media, copy))
  return [...devices, ...media.map((copy) => onCopy(kind, copy, ofCase))]
}

/** A removable medium of unknown kind is most likely a card. */
function readsMedium(media: boolean | readonly string[], { storage }: Copy): boolean {
  return typeof media === 'boolean' ? media : media.includes(known(storage.kind) ? storage.kind : 'card')
}

/** The same binding in a case with other facts. */
export function boundIn(binding: Binding, ofCase: Case): Binding {
  const { copy, device } = binding
  return {
    ...binding,
    copy: copy && (ofCase.copies.find((one) => one.id === copy.id) ?? copy),
    device: device && (ofCase.devices.find((one) => one.id === device.id) ?? device),
  }
}

const HANDHELD_PLATFORMS: readonly Platform[] = ['closed-phone', 'open-phone']
const COMPUTER_PLATFORMS: readonly Platform[] = ['desktop-pc', 'maker-desktop', 'unix-desktop']

function fitsPlatform(device: Device, platforms: readonly Platform[]): Binding['fits'] | null {
  if (known(device.platform)) return platforms.includes(device.platform) ? 'sure' : null
  if (!known(device.kind) || isBareMedium(device)) return null
  const family = isHandheld(device) ? HANDHELD_PLATFORMS : isComputer(device) ? COMPUTER_PLATFORMS : []
  const matching = family.filter((platform) => platforms.includes(platform))
  if (matching.length === 0) return null
  return matching.length === family.length ? 'sure' : 'perhaps'
}

function onCopy(kind: RouteKind, copy: Copy, ofCase: Case): Binding {
  const device = ofCase.devices.find((candidate) => candidate.id === copy.device) ?? ofCase.devices[0] ?? null
  return { ...binding(kind, copy.id, copyWords(copy), device), copy, fits: 'sure' }
}

function onDevice(kind: RouteKind, device: Device, fits: Binding['fits']): Binding {
  return { ...binding(kind, device.id, deviceWords(device), device), copy: null, fits }
}

function binding(kind: RouteKind, source: string, copyTitle: string, device: Device | null) {
  const title = kind.title.replace('{copy}', copyTitle).replace('{device}', device ? deviceWords(device) : 'the device')
  return { id: `${kind.id}:${source}`, kind, device, source, title: title.charAt(0).toUpperCase() + title.slice(1) }
}
