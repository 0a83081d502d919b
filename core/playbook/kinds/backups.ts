import type { RouteKindInput } from '../route-kind'
import { BACKUP_PASSWORD, PASSCODE, SIGN_IN, WORKING } from './gates'

const types = [
  'photos',
  'videos',
  'audio',
  'contacts',
  'messages',
  'call-records',
  'notes',
  'calendar',
  'documents',
  'bookmarks',
  'files',
] as const

const wholeDevice: Pick<RouteKindInput, 'types' | 'brings' | 'finds' | 'effects' | 'window' | 'by'> = {
  types: [...types],
  brings: { by: 'snapshot', keptBin: { minDays: 30, maxDays: 40 } },
  finds: { usual: 1 },
  effects: { erasesDevice: true, spoilsScans: 1, needsSafetyCopy: true },
  window: { rule: 'replaced' },
  by: 'begun',
}

const restoreSheet = {
  lookFor: ['Date and size of the backup, and that it is from before the loss', 'That it is this device’s own backup'],
  stopIf: ['The safety copy could not be verified', 'The battery is below half and no charger is at hand'],
}

/** Backups of a whole device: restored over it, or read selectively. */
export const backupKinds: readonly RouteKindInput[] = [
  {
    id: 'backup-selective',
    family: 'backup-selective',
    title: 'Pick items out of {copy}',
    says: 'Leaves the device as it is and takes only what is wanted.',
    reads: { from: 'copy', kinds: ['computer-backup'] },
    types: [...types],
    keeps: { photos: 0.9, videos: 0.9, messages: 0.95, contacts: 0.98, notes: 0.95 },
    brings: { by: 'snapshot', keptBin: { minDays: 30, maxDays: 40 } },
    finds: { usual: 0.99, rows: 0.98 },
    gates: [BACKUP_PASSWORD, { gate: 'selective', prior: [0.7, 0.85, 0.95] }],
    window: { rule: 'replaced' },
    time: { handsOn: 14, waiting: 25, occupies: false },
    money: { look: 0, take: 0 },
    prior: { chance: 0.9, weight: 18, note: 'Where the backup opens, reading it is dull and works.' },
    holds: ['stop-backup', 'keep-slot'],
    sheet: {
      ready: [
        'The computer or disk that holds the backup',
        'The backup’s password, where it is encrypted',
        'Room on the shelf',
      ],
      steps: [
        'Copy the backup as it is to the shelf’s disk, and work on that copy.',
        'Open it, read its date and device, list what it holds by type.',
        'Take only the wanted items out.',
      ],
      lookFor: ['Date before the loss', 'Items of the wanted days'],
      stopIf: ['The password is refused: write down what was tried, do not go on guessing'],
    },
  },
  {
    id: 'cloud-backup-full',
    family: 'cloud-backup-full',
    title: 'Whole device from {copy}',
    says: 'Erases the device and sets it up again as it was when the backup ran.',
    reads: { from: 'copy', kinds: ['cloud-backup'] },
    ...wholeDevice,
    keeps: { photos: 0.6, videos: 0.55, messages: 0.9, contacts: 0.9, notes: 0.9 },
    gates: [SIGN_IN, WORKING, PASSCODE, { gate: 'consent-erase' }],
    time: { handsOn: 25, waiting: 150, occupies: true },
    money: { look: 0, take: 0 },
    prior: { chance: 0.88, weight: 18, note: 'Failures are broken downloads and backups that need a newer system.' },
    holds: ['stop-backup', 'keep-slot', 'keep-charging', 'stop-sync'],
    sheet: {
      ready: ['Safety copy made and verified', 'Consent to erase, signed', 'Charger, Wi-Fi, account, second factor'],
      steps: [
        'Check date and size of the backup once more.',
        'Erase the device and choose the backup at first set-up.',
        'Leave it on the charger until apps and pictures are in.',
      ],
      ...restoreSheet,
    },
  },
  {
    id: 'computer-backup-full',
    family: 'computer-backup-full',
    title: 'Whole device from {copy}',
    says: 'Puts the device back as it was when the computer backed it up; all that is newer goes.',
    reads: { from: 'copy', kinds: ['computer-backup'] },
    ...wholeDevice,
    keeps: { photos: 0.9, videos: 0.9, messages: 0.95, contacts: 0.98, notes: 0.95 },
    gates: [BACKUP_PASSWORD, WORKING, PASSCODE, { gate: 'consent-erase' }],
    time: { handsOn: 25, waiting: 70, occupies: true },
    money: { look: 0, take: 0 },
    prior: { chance: 0.92, weight: 18, note: 'Failures are cables, and computers that fall asleep.' },
    holds: ['stop-backup', 'keep-slot', 'keep-charging', 'stop-sync'],
    sheet: {
      ready: ['Safety copy made and verified', 'Consent to erase, signed', 'Charger, good cable, computer kept awake'],
      steps: [
        'Check date and size of the backup once more.',
        'Restore, and leave cable and power alone until it says done.',
        'Compare counts per app.',
      ],
      ...restoreSheet,
    },
  },
]
