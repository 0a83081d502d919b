import type { RouteKindInput } from '../route-kind'
import { PASSCODE, WORKING } from './gates'

const computers = ['desktop-pc', 'maker-desktop', 'unix-desktop'] as const

/** Earlier states of files that a computer keeps. */
export const versionKinds: readonly RouteKindInput[] = [
  {
    id: 'earlier-versions',
    family: 'versions',
    title: 'Earlier versions on {device}',
    says: 'Snapshots or file history hold the folder as it was before the loss.',
    reads: { from: 'copy', kinds: ['earlier-versions'] },
    types: ['documents', 'spreadsheets', 'photos', 'videos', 'audio', 'files', 'bookmarks', 'mail'],
    brings: { by: 'snapshot' },
    finds: { usual: 0.97 },
    gates: [WORKING, PASSCODE],
    window: { rule: 'replaced' },
    time: { handsOn: 8, waiting: 5, occupies: true },
    money: { look: 0, take: 0 },
    prior: { chance: 0.88, weight: 16, note: 'Misses are folders that were never included.' },
    holds: ['stop-using', 'stop-backup', 'no-clean-up'],
    sheet: {
      ready: ['Somebody who can sign in', 'Room on the shelf for what is copied out'],
      steps: [
        'List the versions of the folder by date; choose the newest one from before the loss.',
        'Open it beside the folder of today, and copy the wanted files to the shelf.',
        'Do not put the whole folder back over today’s.',
      ],
      lookFor: ['Versions older than the newest: the newest may already be damaged'],
      stopIf: ['The system asks to free room by deleting versions: decline'],
    },
  },
  {
    id: 'automatic-recovery',
    family: 'autosave',
    title: 'Automatic-recovery folder on {device}',
    says: 'Programs keep a copy of open work every few minutes, and clear it when they close in good order.',
    reads: { from: 'device', platforms: [...computers] },
    types: ['documents', 'spreadsheets'],
    brings: { by: 'autosave' },
    finds: { usual: 0.9 },
    gates: [WORKING, PASSCODE],
    window: { rule: 'kept', period: { minDays: 3, maxDays: 8 } },
    time: { handsOn: 6, waiting: 0, occupies: true },
    money: { look: 0, take: 0 },
    prior: {
      chance: 0.75,
      weight: 10,
      note: 'After a crash it is usually there; after “do not save” it depends on the program.',
    },
    holds: ['stop-using', 'no-clean-up', 'save-elsewhere'],
    sheet: {
      ready: ['The program’s name, and roughly when it was open'],
      steps: [
        'Do not start the program: it may clear its own recovery files.',
        'Look into the program’s recovery folder and the temporary folder, newest first.',
        'Copy what is there to the shelf, then open the copies.',
      ],
      lookFor: ['Files of about the right size, changed in the hour of the crash'],
      stopIf: ['The program offers to clean up its recovered files'],
    },
  },
  {
    id: 'look-around',
    family: 'look',
    title: 'Search {device} by name and date',
    says: 'Things that were moved, renamed or saved in another folder are found by name, extension or date.',
    reads: { from: 'device', platforms: [...computers, 'closed-phone', 'open-phone'] },
    types: ['documents', 'spreadsheets', 'photos', 'videos', 'audio', 'files', 'notes', 'bookmarks'],
    brings: { by: 'place', share: [0.02, 0.06, 0.15] },
    finds: { usual: 0.95 },
    gates: [WORKING, PASSCODE],
    window: { rule: 'open' },
    time: { handsOn: 5, waiting: 0, occupies: true },
    money: { look: 0, take: 0 },
    prior: { chance: 0.9, weight: 10, note: 'Rare, but so cheap that it is often worth the five minutes.' },
    holds: ['stop-using'],
    sheet: {
      ready: ['A name, an extension or a day to look for'],
      steps: [
        'Search by name, then by extension, then by the day of the last change.',
        'Look into hidden albums, archives and other users’ folders.',
      ],
      lookFor: ['Shortcuts that point to where the file was'],
      stopIf: [],
    },
  },
]
