import type { Case } from '../cases/shape/case'
import { BIN_OF, type BinName } from '../cases/shape/device'
import { known } from '../cases/shape/fact'
import { IN_AN_ACCOUNT } from '../cases/shape/copy'
import { accountOf, passwordOf } from '../cases/facts/opened-by'
import { DAY_MS, spanOf } from '../cases/shape/moment'
import { copyWords, deviceWords } from '../cases/telling/words'

/** The kinds of copies of which a case without any learns most. */
const BACKUPS: readonly string[] = [
  'computer-backup',
  'cloud-backup',
  'file-history',
  'snapshot-timeline',
  'system-image',
]

const BIN_WORDS: Record<BinName, string> = {
  photos: 'picture bin',
  notes: 'bin of the notes',
  files: 'bin of the files',
  messages: 'bin of the messages',
  mail: 'bin of the mail',
}

/** A backup that was older than this when it happened had stopped running, or never ran by itself. */
const STALE_DAYS = 8

/**
 * What would have saved this very case, from its facts, the most telling first: a bin that was off, a backup that was
 * missing, had not run or kept one state only, sync that was off, a password that nobody knew, the only copy.
 */
export function wouldHaveSaved(ofCase: Case): string[] {
  return [
    ...binsOff(ofCase),
    ...missingCopies(ofCase),
    ...backupsBehind(ofCase),
    ...syncOff(ofCase),
    ...keysLost(ofCase),
    ...onlyOnCard(ofCase),
  ]
}

function binsOff({ devices, wanted }: Case): string[] {
  const names = new Set(wanted.flatMap(({ type }) => (known(type) ? (BIN_OF[type] ?? []) : [])))
  return devices.flatMap((device) =>
    [...names]
      .filter((name) => device.bins[name] === 'off')
      .map(
        (name) =>
          `The ${BIN_WORDS[name]} of ${deviceWords(device)} was off. Switch it on: it keeps what is deleted for weeks.`,
      ),
  )
}

function missingCopies({ copies, devices }: Case): string[] {
  if (copies.some(({ kind, exists }) => BACKUPS.includes(kind) && exists !== 'no')) return []
  const what = devices[0] ? deviceWords(devices[0]) : 'the device'
  return [`We knew of no backup of ${what}. Let one run every night, and look at its date once a month.`]
}

function backupsBehind({ copies, loss }: Case): string[] {
  return copies
    .filter(({ kind, exists }) => BACKUPS.includes(kind) && exists !== 'no')
    .flatMap((copy) => {
      const what = copyWords(copy)
      if (copy.ran === 'no') return [`The run of ${what} did not come. Let somebody be told when one is missed.`]
      const age =
        known(copy.taken) && known(loss.when) ? (spanOf(loss.when).from - spanOf(copy.taken).to) / DAY_MS : null
      if (age !== null && age > STALE_DAYS)
        return [
          `${what.charAt(0).toUpperCase()}${what.slice(1)} was ${Math.round(age)} days old when it happened. Let it run every night.`,
        ]
      return known(copy.replaced)
        ? [
            `Each run replaces ${what}. Keep three states, so that a loss that is noticed late is not copied over the good one.`,
          ]
        : []
    })
}

const syncOff = ({ copies }: Case) =>
  copies
    .filter(({ sync, kind }) => sync === 'off' && (kind === 'cloud-library' || kind === 'cloud-drive'))
    .map(
      (copy) =>
        `Sync with ${copyWords(copy)} was off, so that it had only what was older. Look once a month whether it runs.`,
    )

function keysLost(ofCase: Case): string[] {
  const { copies, devices } = ofCase
  const opened = copies.flatMap((copy) => {
    if (copy.encrypted === 'yes' && passwordOf(copy, ofCase).state === 'not-known')
      return [
        `Nobody knew the password of ${copyWords(copy)}. Write it down, and keep it where it is not locked in with the backup.`,
      ]
    return IN_AN_ACCOUNT.includes(copy.kind) && accountOf(copy, ofCase).state === 'not-known'
      ? [`Nobody could sign in to ${copyWords(copy)}. Keep the account’s password and its recovery codes on paper.`]
      : []
  })
  const locked = devices
    .filter(({ lock, passcode }) => lock === 'locked' && passcode === 'not-known')
    .map((device) => `Nobody knew the passcode of ${deviceWords(device)}. Leave it with somebody you trust, sealed.`)
  return [...opened, ...locked]
}

/** Cards and sticks that were formatted or written on with the only copy. */
function onlyOnCard({ copies, devices, loss }: Case): string[] {
  const isMedium =
    devices.some(({ kind }) => kind === 'card' || kind === 'stick' || kind === 'camera' || kind === 'recorder') ||
    copies.some(({ kind }) => kind === 'medium')
  return isMedium && loss.how === 'formatted'
    ? ['The card was formatted with the only copy. Copy a card to two places before it goes back into its device.']
    : []
}
