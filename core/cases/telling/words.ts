import { timeWords } from '../../local/dates'
import type { Copy, CopyKind } from '../shape/copy'
import type { DataType } from '../shape/data-types'
import type { Device, DeviceKind, Platform } from '../shape/device'
import { known } from '../shape/fact'
import type { LossKind } from '../shape/loss'
import { DAY_MS, spanOf, type Moment, type Span } from '../shape/moment'
import type { RunCause } from '../shape/run'
import type { CaseStateName } from '../shape/states'
import type { WantedSet } from '../shape/wanted'

export const DEVICE_KIND_WORDS: Record<DeviceKind, string> = {
  phone: 'phone',
  tablet: 'tablet',
  laptop: 'laptop',
  desktop: 'desktop computer',
  server: 'small server',
  camera: 'camera',
  recorder: 'recorder',
  card: 'memory card',
  stick: 'memory stick',
  'external-disk': 'external disk',
}

export const PLATFORM_WORDS: Record<Platform, string> = {
  'closed-phone': 'closed platform',
  'open-phone': 'open platform',
  'desktop-pc': 'desktop PC family',
  'maker-desktop': 'maker-run desktop',
  'unix-desktop': 'free Unix-like desktop',
  camera: 'camera',
  recorder: 'recorder',
  removable: 'removable medium',
}

export const TYPE_WORDS: Record<DataType, string> = {
  photos: 'photos',
  videos: 'video clips',
  audio: 'sound recordings',
  contacts: 'contacts',
  messages: 'messages',
  chats: 'chats of an app',
  'call-records': 'call records',
  notes: 'notes',
  calendar: 'calendar entries',
  mail: 'mail',
  documents: 'documents',
  spreadsheets: 'spreadsheets',
  bookmarks: 'bookmarks',
  files: 'files',
}

export const LOSS_WORDS: Record<LossKind, string> = {
  'deleted-singly': 'deleted one by one',
  'deleted-in-bulk': 'deleted in bulk',
  'deleted-past-bin': 'deleted past the bin',
  'bin-emptied': 'deleted and the bin emptied',
  'factory-reset': 'lost in a factory reset',
  reinstalled: 'lost when the system was installed again',
  formatted: 'lost in a format',
  'crashed-before-saving': 'lost in a crash before saving',
  'saved-over': 'saved over',
  'sync-switched': 'gone after sync was switched',
  'app-removed': 'gone with an app that was removed',
  'locked-out': 'locked away',
  broken: 'out of reach in something broken',
  'device-gone': 'gone with the device',
  malware: 'lost to malware',
  'not-lost-yet': 'not lost yet, but will be',
}

export const COPY_KIND_WORDS: Record<CopyKind, string> = {
  'cloud-library': 'cloud library',
  'cloud-drive': 'cloud drive',
  'cloud-backup': 'cloud backup',
  'computer-backup': 'backup on a computer',
  'trusted-computer': 'computer it trusted',
  'file-history': 'file history',
  'earlier-versions': 'earlier versions',
  'snapshot-timeline': 'snapshots',
  'system-image': 'system image',
  'restore-point': 'system restore point',
  'contact-archive': 'account’s contacts',
  'bookmark-archive': 'bookmark archive',
  'mail-account': 'mail account',
  'social-account': 'social account',
  'sim-card': 'SIM card',
  'app-copies': 'copies that the app makes itself',
  'other-device': 'other device that still shows them',
  'disk-image': 'disk image',
  medium: 'removable medium',
  person: 'somebody who has them',
}

export const STATE_WORDS: Record<CaseStateName, string> = {
  logged: 'logged',
  'at-bench': 'at the bench',
  waiting: 'waiting',
  ready: 'ready',
  'handed-over': 'handed over',
  uncollected: 'uncollected',
  closed: 'closed',
}

/** "Korvane 7", else "the phone", else "the device". */
export function deviceWords(device: Device): string {
  if (known(device.make)) return device.make
  return known(device.kind) ? `the ${DEVICE_KIND_WORDS[device.kind]}` : 'the device'
}

/** A copy as one would refer to it: "the backup on the laptop, 26 Oct", "the cloud library". */
export function copyWords(copy: Copy): string {
  const kind = COPY_KIND_WORDS[copy.kind]
  if (copy.kind === 'person' || copy.kind === 'medium' || copy.kind === 'other-device')
    return known(copy.label)
      ? `the ${copy.label}`.replace(/^the (the|my|her|his|their|a|an) /i, 'the ')
      : copy.kind === 'person'
        ? kind
        : `the ${kind}`
  if (copy.kind === 'trusted-computer' && known(copy.label)) return `the ${copy.label} that it trusted`
  if (copy.kind === 'computer-backup' && known(copy.label)) return `the backup on the ${copy.label}`
  return known(copy.label) ? `the ${kind} (${copy.label})` : `the ${kind}`
}

/** A day in the shop's zone, with the year only where it is not this one. */
export function dayWords(time: number, zone: string, now: number): string {
  const sameYear = timeWords(time, zone, 'yyyy') === timeWords(now, zone, 'yyyy')
  return timeWords(time, zone, sameYear ? 'd MMM' : 'd MMM yyyy')
}

/** A range of time as people write it: one day, two days of one month, or two dates; hours where it is shorter than a day. */
export function spanWords(span: Span, zone: string, now: number): string {
  const clock = (time: number) => timeWords(time, zone, 'HH:mm')
  const isDayStart = clock(span.from) === '00:00'
  const isDayEnd = clock(span.to) === '23:59' || clock(span.to) === '00:00'
  const from = dayWords(span.from, zone, now)
  const to = dayWords(span.to, zone, now)
  if (from === to) {
    if (isDayStart && (isDayEnd || span.to === now)) return from
    return clock(span.from) === clock(span.to)
      ? `${from} ${clock(span.from)}`
      : `${from} ${clock(span.from)} to ${clock(span.to)}`
  }
  if (span.to - span.from < DAY_MS && !(isDayStart && isDayEnd))
    return `${from} ${clock(span.from)} to ${to} ${clock(span.to)}`
  const [dayFrom, ...restFrom] = from.split(' ')
  return restFrom.join(' ') === to.split(' ').slice(1).join(' ') ? `${dayFrom} to ${to}` : `${from} to ${to}`
}

/** A moment as people write it, in the shop's zone. */
export function momentWords(moment: Moment, zone: string, now: number): string {
  return spanWords(spanOf(moment), zone, now)
}

/** Why a run failed, as a reason in brackets. */
export const CAUSE_WORDS: Record<RunCause, string> = {
  gate: 'could not start',
  access: 'no access',
  'nothing-there': 'nothing there',
  damaged: 'damaged',
  overwritten: 'overwritten',
  'out-of-time': 'ran out of time',
  'client-stopped': 'stopped by the client',
}

/** Names that take no article: several of them, somebody, or what belongs to an account. */
const WITHOUT_ARTICLE = /^(?:copies|earlier|snapshots|somebody)\b/

/** "a phone", "an external disk", "snapshots". */
export function withArticle(words: string): string {
  if (WITHOUT_ARTICLE.test(words)) return words
  if (words.startsWith('account’s ')) return `the ${words}`
  if (words.startsWith('other ')) return `an${words}`
  return `${/^[aeiou]/i.test(words) ? 'an' : 'a'} ${words}`
}

/** True for names of several things: there are snapshots, there is a cloud library. */
export const isPlural = (words: string): boolean => /^(?:account’s|copies|earlier|snapshots)\b/.test(words)

/** "9 photos", "1 contact", "1 call record": a count with its noun, which is given in the plural. */
export function countWords(count: number, plural: string): string {
  const whole = Math.round(count)
  // "chats of an app": the noun is in front.
  const [noun = plural, of = ''] = plural.split(/(?= of )/, 2)
  return `${whole} ${whole === 1 ? noun.replace(/ies$/, 'y').replace(/([^s])s$/, '$1') + of : plural}`
}

/** A wanted set as one would refer to it: in the client's words, else by its kind. */
export const setWords = ({ title, type }: Pick<WantedSet, 'title' | 'type'>): string =>
  known(title) ? title : known(type) ? TYPE_WORDS[type] : 'items'
