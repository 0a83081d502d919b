import type { RouteKindInput } from './route-kind'
import { PASSCODE, WORKING } from './gates'

const free = { look: 0, take: 0 }

/** What is still somewhere: not lost yet, shown by another device, or in the copies that an app makes of itself. */
export const stillThereKinds: readonly RouteKindInput[] = [
  {
    id: 'copy-while-there',
    family: 'look',
    title: 'Copy them off {device} while they are there',
    says: 'Nothing is lost yet: what is copied now does not have to be recovered later.',
    reads: {
      from: 'device',
      platforms: ['closed-phone', 'open-phone', 'desktop-pc', 'maker-desktop', 'unix-desktop', 'camera', 'recorder'],
    },
    types: 'all',
    losses: ['not-lost-yet'],
    brings: { by: 'present' },
    finds: { usual: 0.99, rows: 0.95 },
    gates: [WORKING, PASSCODE],
    window: { rule: 'open' },
    time: { handsOn: 12, waiting: 60, occupies: true },
    money: free,
    prior: { chance: 0.96, weight: 20, note: 'Failures are cables, and apps that let nothing out.' },
    holds: ['stop-sync', 'no-passcode-guessing', 'privacy'],
    sheet: {
      ready: ['Device charged and unlocked by its owner', 'Room on the shelf for all of it'],
      steps: [
        'Ask what ends, and when: the device, the account, or the place of the items.',
        'Copy everything that is wanted to the shelf, must-haves first.',
        'Open some of each kind, and compare the counts.',
      ],
      lookFor: ['Placeholders: open one, and see whether its content has to be fetched', 'Items of a second account'],
      stopIf: ['Something vanishes while you copy: take the device off the network'],
    },
    aftercare: ['Keep a second copy from now on, in a place that does not end with this one.'],
  },
  {
    id: 'other-device',
    family: 'cloud-library',
    title: 'Take them from {copy}',
    says: 'Another device of the same account still shows them, as long as it does not sync.',
    reads: { from: 'copy', kinds: ['other-device'] },
    types: 'all',
    brings: { by: 'other-device' },
    finds: { usual: 0.97, rows: 0.9 },
    gates: [],
    window: { rule: 'online' },
    time: { handsOn: 12, waiting: 20, occupies: false },
    money: free,
    prior: {
      chance: 0.9,
      weight: 12,
      note: 'Misses are reduced pictures, and devices that synced on the way to the shop.',
    },
    holds: ['keep-offline', 'stop-sync', 'privacy'],
    sheet: {
      ready: [
        'The other device, with its radio off before it is switched on',
        'Its passcode, a cable, room on the shelf',
      ],
      steps: [
        'Switch its radio off, or keep it out of reach of any network, before anything else.',
        'Count what it shows of the wanted days.',
        'Copy the items by cable to the shelf, full size where it has it.',
      ],
      lookFor: ['Small pictures that wait to be fetched in full size', 'The newest item: it was last in sync then'],
      stopIf: ['Items vanish while you look: it is online'],
    },
    aftercare: ['A second device is no backup: what is deleted on one goes from both.'],
  },
  {
    id: 'app-own-copies',
    family: 'versions',
    title: 'Let the app restore one of {copy}',
    says: 'The app copies itself every day or night and keeps the last few; one from before the loss brings it back.',
    reads: { from: 'copy', kinds: ['app-copies'] },
    types: ['chats', 'messages', 'notes', 'photos', 'videos', 'audio', 'documents'],
    keeps: { chats: 0.97, messages: 0.9, notes: 0.9, photos: 0.35, videos: 0.25, audio: 0.35, documents: 0.3 },
    brings: { by: 'rolling' },
    finds: { usual: 0.95, rows: 0.95 },
    gates: [WORKING, PASSCODE],
    window: { rule: 'rolled', period: { minDays: 6, maxDays: 8 } },
    effects: { turnsBack: true, needsSafetyCopy: true },
    time: { handsOn: 15, waiting: 20, occupies: true },
    money: free,
    prior: { chance: 0.8, weight: 10, note: 'Misses are another number or account, and copies of an older app.' },
    holds: ['stop-using', 'stop-sync', 'no-passcode-guessing', 'privacy'],
    sheet: {
      ready: ['Device charged and unlocked by its owner', 'The number or account that the app was set up with'],
      steps: [
        'Copy the app’s folder of copies to the shelf before the app is opened again.',
        'Choose the newest copy from before the loss; the newest of all is often from after it.',
        'Put that one in place of the newest, and let the app restore it when it is set up.',
        'Compare the last messages with what the client remembers.',
      ],
      lookFor: [
        'Dates and sizes of the copies: the loss shows as a sudden drop',
        'Pictures, which lie in another folder',
      ],
      stopIf: ['The app begins a new copy: stop it, it takes the place of the oldest'],
    },
    aftercare: ['Let the app copy itself to a second place too, and look at its date once a month.'],
  },
]
