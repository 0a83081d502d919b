import type { Case } from '../../../cases/shape/case'
import { known } from '../../../cases/shape/fact'
import { isBareMedium, isComputer, isHandheld } from '../../../cases/shape/device'
import { ROW_TYPES } from '../../../cases/shape/data-types'
import { DELETIONS } from '../../../cases/shape/loss'
import { spanOf } from '../../../cases/shape/moment'
import { copyWords, deviceWords, spanWords } from '../../../cases/telling/words'
import { sayBytes } from '../../../cases/telling/saying/amounts'
import { keepOfflineHold } from '../../figures/windows/online'
import { stopBackupHold } from '../../figures/windows/replaced'
import { carriesOn } from '../../figures/windows/synced'
import { zoneOf, type Situation } from '../../situation/situation'
import { byCause, CAUSE_HOLDS } from './by-cause'
import { byCondition, CONDITION_HOLDS } from './by-condition'
import { affected, on, one, type HoldFinding, type HoldRule } from './finding'

const mainOf = (ofCase: Case) => ofCase.devices[0] ?? null
/** Losses after which using the device takes nothing away: it is all there, or the device is not. */
const NOTHING_TO_SPARE: readonly string[] = ['locked-out', 'broken', 'not-lost-yet', 'device-gone']
const isLiveLoss = ({ loss }: Case) => !NOTHING_TO_SPARE.includes(loss.how)
const cloudCopies = (ofCase: Case) =>
  ofCase.copies.filter((copy) => copy.kind === 'cloud-library' || copy.kind === 'cloud-drive')

const RULES: Record<string, HoldRule> = {
  'stop-using': ({ ofCase }) => {
    if (!isLiveLoss(ofCase)) return []
    return affected(ofCase).flatMap((device) => {
      const isUsed = isHandheld(device) || isComputer(device)
      if (device.condition === 'gone' || !isUsed || DOES_NOT_RUN.includes(device.condition)) return []
      if (device.power === 'off')
        return on(
          device,
          ofCase,
          'stop-using',
          `Leave ${deviceWords(device)} switched off`,
          'while it is off, nothing is overwritten',
          [`devices.${device.id}.power`, 'loss.how'],
        )
      return on(
        device,
        ofCase,
        'stop-using',
        `Keep ${deviceWords(device)} out of use`,
        'every hour of use overwrites data and lets bins empty themselves',
        ['loss.how', `devices.${device.id}.kind`],
      )
    })
  },
  'keep-medium-out': ({ ofCase }) => {
    const media = ofCase.copies.filter((copy) => copy.kind === 'medium' && copy.exists !== 'no')
    const bare = ofCase.devices.filter((device) => isBareMedium(device) && device.condition !== 'gone')
    if (media.length + bare.length === 0) return []
    const names = [...media.map(copyWords), ...bare.map(deviceWords)]
    return one(
      'keep-medium-out',
      `Take ${listed(names)} out and keep it out`,
      `nothing may record, format or repair it`,
      [...media.map(({ id }) => `copies.${id}.kind`), ...bare.map(({ id }) => `devices.${id}.kind`)],
    )
  },
  'stop-sync': ({ ofCase }) => {
    const cloud = cloudCopies(ofCase)
    const { how, since } = ofCase.loss
    if (cloud.length === 0 || since.sync === 'none' || (how !== 'sync-switched' && !carriesOn(how))) return []
    const from = ['loss.since.sync', ...cloud.map((copy) => `copies.${copy.id}.sync`)]
    const wasOff = cloud.some((copy) => copy.sync === 'off')
    if (how === 'sync-switched')
      return one(
        'stop-sync',
        'Leave sync as it is until the account has been looked into',
        'switched on again first, it can carry the loss on',
        from,
      )
    if (wasOff && DELETIONS.includes(how))
      return one('stop-sync', 'Leave sync off', 'switched on now, it would propagate the deletion to the cloud', from)
    if (since.sync === 'off') return one('stop-sync', 'Leave sync off until the cloud has been checked', null, from)
    return one('stop-sync', 'Take the device off the network', 'sync must not propagate the loss', from)
  },
  'stop-backup': (situation) =>
    situation.ofCase.copies.flatMap((copy) => {
      if (!REPLACED_BY_A_RUN.includes(copy.kind) || !known(copy.replaced)) return []
      const span = spanOf(copy.replaced)
      const isAhead = span.to > situation.now
      if (!isAhead && copy.ran !== 'no') return []
      const when = spanWords(span, zoneOf(situation), situation.now)
      return [
        {
          id: stopBackupHold(copy.id),
          what: isAhead ? 'Stop the next backup run' : 'Leave the machine that makes the backups off',
          why: isAhead
            ? `it would replace ${copyWords(copy)} ${when}`
            : `the run that it missed would replace ${copyWords(copy)} at the next start`,
          from: [isAhead ? `copies.${copy.id}.replaced` : `copies.${copy.id}.ran`],
          copies: [copy.id],
          device: null,
        },
      ]
    }),
  'keep-slot': ({ ofCase }) => {
    const backups = ofCase.copies.filter((copy) => copy.kind === 'cloud-backup' || copy.kind === 'computer-backup')
    return backups.length === 0
      ? []
      : one(
          'keep-slot',
          'No new backup into the old one’s slot',
          'a safety copy goes somewhere else',
          backups.map((copy) => `copies.${copy.id}.kind`),
        )
  },
  'no-passcode-guessing': ({ ofCase }) =>
    ofCase.devices.flatMap((device) => {
      if (device.lock !== 'locked' || device.passcode === 'known' || device.condition === 'gone') return []
      const codes = known(device.wrongCodes) ? device.wrongCodes : 0
      return on(
        device,
        ofCase,
        'no-passcode-guessing',
        'No guessing of passcodes',
        codes > 0
          ? `${codes} wrong ${codes === 1 ? 'code has' : 'codes have'} been entered; some devices erase themselves after ten`
          : 'some devices erase themselves after too many tries',
        [
          `devices.${device.id}.lock`,
          `devices.${device.id}.passcode`,
          ...(known(device.wrongCodes) ? [`devices.${device.id}.wrongCodes`] : []),
        ],
      )
    }),
  'keep-offline': ({ ofCase }) =>
    ofCase.copies
      .filter((copy) => copy.kind === 'other-device' && copy.exists !== 'no')
      .map((copy) => ({
        id: keepOfflineHold(copy.id),
        what: `Keep ${copyWords(copy)} off every network`,
        why: 'as soon as it is online, it loses them too',
        from: [`copies.${copy.id}.kind`, `copies.${copy.id}.lastOnline`],
        copies: [copy.id],
        device: null,
      })),
  'no-installs': ({ ofCase }) => {
    const device = mainOf(ofCase)
    return device && isComputer(device)
      ? one('no-installs', `Install nothing on ${deviceWords(device)}, not even a tool that promises help`, null, [
          `devices.${device.id}.kind`,
        ])
      : []
  },
  'power-off': ({ ofCase }) =>
    affected(ofCase).flatMap((device) => {
      // What is off already is kept off by the hold on its use, what does not run by the one on its condition.
      const isRunning = device.power !== 'off' && device.condition !== 'clicking' && device.condition !== 'gone'
      if (!isComputer(device) || !isRunning || DOES_NOT_RUN.includes(device.condition)) return []
      const { discard, kind } = device.storage
      const discards = discard === 'by-timer' || (kind === 'solid-state' && !known(discard))
      const thins = ofCase.copies.some((copy) => copy.kind === 'snapshot-timeline')
      const off = `Switch ${deviceWords(device)} off`
      if (discards && isLiveLoss(ofCase))
        return on(device, ofCase, 'power-off', off, 'while it is on, it erases freed blocks by itself', [
          `devices.${device.id}.storage.discard`,
          `devices.${device.id}.storage.kind`,
        ])
      return thins
        ? on(device, ofCase, 'power-off', off, 'while it is on, old snapshots are thinned out', ['copies'])
        : []
    }),
  'save-elsewhere': ({ ofCase }) => {
    const device = mainOf(ofCase)
    const reads = (device !== null && !isHandheld(device)) || ofCase.copies.some((copy) => copy.kind === 'medium')
    return reads
      ? one('save-elsewhere', 'Save to the shelf only', 'never to what it was read from', [
          device ? `devices.${device.id}.kind` : 'copies',
        ])
      : []
  },
  'no-clean-up': ({ ofCase }) => {
    const { how } = ofCase.loss
    if (how !== 'crashed-before-saving' && how !== 'saved-over') return []
    return one('no-clean-up', 'Decline every offer to tidy up', 'temporary files and versions are what we need', [
      'loss.how',
    ])
  },
  'keep-charging': ({ ofCase }) => {
    const device = mainOf(ofCase)
    return device && isHandheld(device) && ofCase.copies.some((copy) => copy.kind.endsWith('-backup'))
      ? one('keep-charging', 'Keep it on the charger while anything is restored', null, [`devices.${device.id}.kind`])
      : []
  },
  'export-before-turning-back': ({ ofCase }) =>
    ofCase.copies.some((copy) => copy.kind === 'contact-archive' || copy.kind === 'bookmark-archive')
      ? one(
          'export-before-turning-back',
          'Save today’s list before anything is turned back',
          'turning back replaces what is newer',
          ['copies'],
        )
      : [],
  'do-not-operate': ({ ofCase }) => {
    const device = mainOf(ofCase)
    const hasRows = ofCase.wanted.some((set) => known(set.type) && ROW_TYPES.includes(set.type))
    return device && isHandheld(device) && hasRows && device.cable !== 'refused'
      ? one(
          'do-not-operate',
          `Do not touch ${deviceWords(device)} while it is being read`,
          `a new message can overwrite a deleted one`,
          [`devices.${device.id}.kind`, `devices.${device.id}.cable`],
        )
      : []
  },
  'free-room': ({ ofCase }) => {
    const device = mainOf(ofCase)
    if (!device || !known(device.storage.freeBytes)) return []
    const { freeBytes, capacityBytes } = device.storage
    const isNearlyFull = freeBytes < 1.5e9 || (known(capacityBytes) && freeBytes < capacityBytes * 0.03)
    return isNearlyFull
      ? one(
          'free-room',
          `Only ${sayBytes(freeBytes)} are free on ${deviceWords(device)}`,
          `add nothing to it, and do not let it free space automatically`,
          [`devices.${device.id}.storage.freeBytes`],
        )
      : []
  },
  warranty: ({ ofCase }) => {
    const device = mainOf(ofCase)
    if (!device || isBareMedium(device)) return []
    return isHandheld(device)
      ? one('warranty', 'No rooting and no unlocking for a deeper look', 'it erases the phone and ends its warranty', [
          `devices.${device.id}.kind`,
        ])
      : one('warranty', `Ask about the warranty before ${deviceWords(device)} is opened`, null, [
          `devices.${device.id}.kind`,
        ])
  },
  privacy: ({ ofCase }) => {
    const isOthers = known(ofCase.authority.basis) && ofCase.authority.basis !== 'own'
    if (ofCase.limits.seenBy === 'in-house' && !isOthers)
      return one('privacy', 'Nothing leaves the house', 'no upload, no laboratory, no copy on a machine elsewhere', [
        'limits.seenBy',
      ])
    if (ofCase.limits.seenBy !== 'us-only' && !isOthers) return []
    return isOthers
      ? one('privacy', 'The data is somebody else’s', 'open only what is asked for, with nobody looking on', [
          'authority.basis',
        ])
      : one('privacy', 'Nobody but us sees it', 'work out of sight, and send nothing anywhere', ['limits.seenBy'])
  },
}

/** Copies that an automatic run replaces. */
const REPLACED_BY_A_RUN: readonly string[] = [
  'computer-backup',
  'cloud-backup',
  'trusted-computer',
  'earlier-versions',
  'file-history',
  'snapshot-timeline',
  'system-image',
]

/** Devices that do not run: nothing is overwritten on them by use. */
const DOES_NOT_RUN: readonly string[] = ['no-power', 'wet']

const listed = (names: readonly string[]) =>
  names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`

/** Holds on a step of some routes: without such a route they say nothing. */
const OF_ROUTES: readonly string[] = [
  'keep-slot',
  'no-installs',
  'save-elsewhere',
  'keep-charging',
  'export-before-turning-back',
  'do-not-operate',
  'free-room',
  'warranty',
]

const KINDS: readonly string[] = [...Object.keys(RULES), ...CONDITION_HOLDS, ...CAUSE_HOLDS]

/** The kind of hold that a finding belongs to: its id without the device or copy that it is about. */
export function holdKindOf(id: string): string {
  return KINDS.find((kind) => id === kind || id.startsWith(`${kind}-`)) ?? id
}

/** Whether a hold is on a step of some routes only, so that it vanishes with them; all others stand while their facts do. */
export const isOfRoutes = (id: string): boolean => OF_ROUTES.includes(holdKindOf(id))

/** Every hold that follows from the facts of the case, in the order in which to say them: what is in danger first. */
export function holdsOf(situation: Situation): HoldFinding[] {
  const all = [byCondition, byCause, ...Object.values(RULES)].flatMap((rule) => rule(situation))
  // A condition and a way of losing can ask for the same.
  return all.filter((hold, index) => all.findIndex(({ id }) => id === hold.id) === index)
}
