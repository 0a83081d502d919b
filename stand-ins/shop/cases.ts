import type { Change } from '../../core/cases/facts/facts'
import type { CaseState } from '../../core/cases/shape/states'
import type { HandoverInput } from '../../core/handover/writes'
import type { DemoTimes } from './times'

/** What happened to a case after it was logged, hours ago, oldest first. */
export type DemoEvent =
  | { readonly ago: number; readonly by: string; readonly tick: string }
  | { readonly ago: number; readonly by: string; readonly waive: string; readonly reason: string }
  | {
      readonly ago: number
      readonly by: string
      readonly run: string
      readonly minutes: number
      readonly back: Record<string, readonly [back: number, whole: number]>
      readonly note?: string
      readonly failedOn?: string
    }
  | { readonly ago: number; readonly by: string; readonly begin: string }
  | {
      readonly ago: number
      readonly by: string
      readonly to: CaseState['name']
      readonly waitingFor?: CaseState['waitingFor']
      readonly reason?: string
    }
  | { readonly ago: number; readonly by: string; readonly facts: Change[] }
  | { readonly ago: number; readonly by: string; readonly hand: HandoverInput }

export interface DemoCase {
  /** hours ago */
  readonly logged: number
  readonly by: string
  readonly facts: Change[]
  readonly events: readonly DemoEvent[]
}

const client = (name: string, phone: string): Change[] => [
  { fact: 'client.name', is: name },
  { fact: 'client.phone', is: phone },
]
const own: Change[] = [
  { fact: 'authority.basis', is: 'own' },
  { fact: 'consent.lookThrough.answer', is: 'given' },
]
/** Data of somebody else: whose, who agreed, and the proof that was seen. */
const others = (basis: string, whose: string, agreedBy: string, proof: string): Change[] => [
  { fact: 'authority.basis', is: basis },
  { fact: 'authority.whose', is: whose },
  { fact: 'authority.agreedBy', is: agreedBy },
  { fact: 'authority.proof', is: proof },
  { fact: 'consent.lookThrough.answer', is: 'given' },
]
const device = (facts: object): Change => ({ fact: 'devices.d1', is: facts })
const wanted = (id: string, facts: object): Change => ({ fact: `wanted.${id}`, is: facts })
const copy = (id: string, facts: object): Change => ({ fact: `copies.${id}`, is: facts })
const loss = (facts: Record<string, unknown>): Change[] =>
  Object.entries(facts).map(([fact, is]) => ({ fact: `loss.${fact}`, is }))
const GB = 1e9

/** The first device of a case as it was handed in. */
const handedIn = (words: string, serial: string, condition: string, place: string, person: string): HandoverInput => ({
  do: 'receive',
  things: [{ part: 'd1', words, serial, condition }],
  place,
  person,
})

/** The cases of the demo's shop: people, makers and losses are all made up. */
export function demoCases(time: DemoTimes): DemoCase[] {
  return [
    {
      // The nightly backup of the laptop replaces the good one tonight.
      logged: 3,
      by: 'Jory Penn',
      facts: [
        ...client('Wilfreda Ashby', '01632 960 214'),
        ...own,
        { fact: 'title', is: 'Ashby · peat survey photos' },
        device({
          kind: 'phone',
          platform: 'open-phone',
          make: 'Korvane 7',
          storage: { capacityBytes: 128 * GB, freeBytes: 11 * GB, encryption: 'per-file' },
          lock: 'unlocked',
          condition: 'working',
        }),
        wanted('w1', {
          type: 'photos',
          title: 'survey photos',
          count: 260,
          bytes: 1.1 * GB,
          made: time.between(-44, -9),
          mustHave: time.between(-15, -9),
          lived: [{ place: 'device' }, { place: 'card', from: time.between(-18, -18) }],
        }),
        ...loss({
          how: 'deleted-in-bulk',
          when: time.between(-9, -6),
          noticed: time.between(-1, -1),
          'since.used': 'yes',
          'since.writtenBytes': 2 * GB,
          'since.sync': 'on',
        }),
        copy('c1', { kind: 'cloud-library', account: 'known', sync: 'on', syncedUntil: time.between(-27, -27) }),
        copy('c2', {
          kind: 'medium',
          label: 'card, 64 GB',
          storage: { kind: 'card', capacityBytes: 64 * GB, freeBytes: 30 * GB },
        }),
        copy('c3', {
          kind: 'computer-backup',
          label: 'laptop at the field hut',
          taken: time.between(-22, -22, 20, 20.5),
          encrypted: 'no',
          replaced: time.between(1, 1, 2, 2.5),
        }),
        copy('c4', { kind: 'person', label: 'survey partner', count: 35 }),
        { fact: 'limits.money', is: 120 },
        { fact: 'limits.seenBy', is: 'us-only' },
      ],
      events: [
        {
          ago: 2.9,
          by: 'Jory Penn',
          hand: handedIn('Korvane 7', 'KV7-20391', 'scratched back, works', 'drawer 4', 'Wilfreda Ashby'),
        },
        { ago: 2.8, by: 'Jory Penn', tick: 'stop-using' },
        { ago: 2.7, by: 'Jory Penn', hand: { do: 'quote', low: 25, high: 90, nothingBack: 0 } },
      ],
    },
    {
      // A card that goes back to its owner this afternoon.
      logged: 5,
      by: 'Jory Penn',
      facts: [
        ...client('Water rescue volunteers', '01632 960 350'),
        ...others('employer', 'the volunteers’ society', 'Tamsin Rook', 'letter'),
        { fact: 'title', is: 'Water rescue · training clips' },
        device({
          kind: 'camera',
          make: 'Tessel action camera',
          storage: { kind: 'card', fileSystem: 'exFAT', capacityBytes: 64 * GB },
          condition: 'working',
        }),
        wanted('w1', {
          type: 'videos',
          title: 'training clips',
          count: 38,
          bytes: 14 * GB,
          made: time.between(-12, -2),
          mustHave: 'none',
          lived: [{ place: 'card' }],
        }),
        ...loss({
          how: 'formatted',
          format: 'quick',
          when: time.between(-1, -1, 17, 18),
          noticed: time.between(-1, -1, 19, 19.5),
          'since.used': 'yes',
          'since.writtenBytes': 0.8 * GB,
        }),
        copy('c1', { kind: 'person', label: 'second boat’s crew', count: 9 }),
        { fact: 'limits.deadline', is: time.inHours(6, 7) },
        { fact: 'limits.money', is: 60 },
      ],
      events: [
        { ago: 4.6, by: 'Bram Hollis', tick: 'keep-medium-out' },
        { ago: 4.5, by: 'Bram Hollis', tick: 'save-elsewhere' },
        {
          ago: 4.4,
          by: 'Bram Hollis',
          run: 'medium-quick-pass:d1',
          minutes: 8,
          back: { w1: [4, 4] },
          note: 'Records of four clips were left; the rest was gone from the table.',
        },
      ],
    },
    {
      // Overwritten this morning; the folder's snapshots live for a day.
      logged: 2,
      by: 'Jory Penn',
      facts: [
        ...client('Parish quilt guild', '01632 960 118'),
        ...own,
        { fact: 'title', is: 'Quilt guild · members’ accounts' },
        device({
          kind: 'laptop',
          platform: 'desktop-pc',
          make: 'Harrowby Book 14',
          storage: { kind: 'solid-state', fileSystem: 'NTFS', capacityBytes: 512 * GB, freeBytes: 210 * GB },
          lock: 'unlocked',
          condition: 'working',
        }),
        wanted('w1', {
          type: 'spreadsheets',
          title: 'members’ accounts',
          count: 1,
          names: 'guild accounts',
          mustHave: 'all',
          lived: [{ place: 'device' }],
        }),
        ...loss({
          how: 'saved-over',
          when: time.inHours(-6, -4),
          noticed: time.inHours(-3, -3),
          'since.used': 'yes',
          'since.installed': 'no',
        }),
        copy('c1', { kind: 'earlier-versions', taken: time.between(-1, -1, 21, 21.2), replaced: time.inHours(14, 17) }),
        { fact: 'limits.money', is: 90 },
      ],
      events: [],
    },
    {
      // Contacts merged away; the account can be turned back for a few more days.
      logged: 26,
      by: 'Jory Penn',
      facts: [
        ...client('Hesper Lindqvist', '07700 900 461'),
        ...own,
        { fact: 'title', is: 'Lindqvist · contacts' },
        device({
          kind: 'phone',
          platform: 'open-phone',
          make: 'Ostrel Mini',
          storage: { capacityBytes: 64 * GB, freeBytes: 20 * GB },
          lock: 'unlocked',
          condition: 'working',
        }),
        wanted('w1', {
          type: 'contacts',
          count: 420,
          mustHave: 'all',
          lived: [{ place: 'device' }, { place: 'cloud' }],
        }),
        ...loss({
          how: 'deleted-in-bulk',
          when: time.between(-27, -25),
          noticed: time.between(-2, -2),
          'since.used': 'yes',
          'since.sync': 'on',
        }),
        copy('c1', { kind: 'contact-archive', account: 'known' }),
        copy('c2', { kind: 'cloud-backup', taken: time.between(-40, -40, 3, 4), account: 'known' }),
        { fact: 'limits.money', is: 50 },
      ],
      events: [{ ago: 25, by: 'Suda Wray', tick: 'stop-sync' }],
    },
    {
      // Notes from the bin: plenty of time.
      logged: 30,
      by: 'Suda Wray',
      facts: [
        ...client('Sister Clodagh Byrne', '01632 960 702'),
        ...own,
        { fact: 'title', is: 'Byrne · infirmary notes' },
        device({
          kind: 'tablet',
          platform: 'closed-phone',
          make: 'Pelloon Slate',
          storage: { capacityBytes: 128 * GB, freeBytes: 60 * GB },
          lock: 'unlocked',
          condition: 'working',
        }),
        wanted('w1', {
          type: 'notes',
          count: 25,
          made: time.between(-200, -20),
          mustHave: 'none',
          lived: [{ place: 'app' }],
        }),
        ...loss({
          how: 'deleted-singly',
          when: time.between(-18, -14),
          noticed: time.between(-2, -2),
          'since.used': 'yes',
          'since.sync': 'off',
        }),
        copy('c1', {
          kind: 'cloud-backup',
          taken: time.between(-3, -3, 2, 3),
          account: 'known',
          keeps: ['notes', 'contacts', 'photos'],
          replaced: time.between(1, 1, 2, 3),
        }),
      ],
      events: [],
    },
    {
      // Waiting for the account's owner to call back with the second factor.
      logged: 52,
      by: 'Jory Penn',
      facts: [
        ...client('Ennis Carrick', '07700 900 118'),
        ...own,
        { fact: 'title', is: 'Carrick · hatchling photos' },
        device({
          kind: 'phone',
          platform: 'closed-phone',
          make: 'Korvane Air',
          storage: { capacityBytes: 256 * GB, freeBytes: 90 * GB },
          lock: 'unlocked',
          condition: 'working',
        }),
        wanted('w1', {
          type: 'photos',
          title: 'hatchling photos',
          count: 180,
          made: time.between(-60, -30),
          mustHave: 'none',
          lived: [{ place: 'device' }, { place: 'cloud' }],
        }),
        wanted('w2', {
          type: 'videos',
          title: 'nest-box clips',
          count: 12,
          made: time.between(-60, -30),
          mustHave: 'all',
          lived: [{ place: 'device' }],
        }),
        ...loss({
          how: 'sync-switched',
          when: time.between(-5, -4),
          noticed: time.between(-4, -4),
          'since.used': 'yes',
          'since.sync': 'off',
        }),
        copy('c1', { kind: 'cloud-library', account: 'not-known', sync: 'off', syncedUntil: time.between(-34, -32) }),
        { fact: 'limits.money', is: 80 },
      ],
      events: [
        { ago: 50, by: 'Suda Wray', tick: 'stop-sync' },
        {
          ago: 49,
          by: 'Suda Wray',
          to: 'waiting',
          waitingFor: 'account',
          reason: 'Resets the password at home, calls back.',
        },
      ],
    },
    {
      // Locked phone of somebody who has died; a computer it trusted.
      logged: 75,
      by: 'Ottilie Marsh',
      facts: [
        ...client('Rosalind Thane', '01632 960 833'),
        ...others('estate', 'her late brother', 'Rosalind Thane', 'court-paper'),
        { fact: 'title', is: 'Thane · her brother’s messages' },
        device({
          kind: 'phone',
          platform: 'closed-phone',
          make: 'Korvane 5',
          storage: { capacityBytes: 64 * GB, encryption: 'per-file' },
          lock: 'locked',
          passcode: 'not-known',
          condition: 'working',
        }),
        wanted('w1', {
          type: 'messages',
          count: 3000,
          made: time.between(-900, -60),
          mustHave: 'none',
          lived: [{ place: 'app' }],
        }),
        wanted('w2', {
          type: 'photos',
          count: 900,
          made: time.between(-900, -60),
          mustHave: 'none',
          lived: [{ place: 'device' }],
        }),
        ...loss({ how: 'locked-out', when: time.between(-60, -60), 'since.used': 'no' }),
        copy('c1', {
          kind: 'computer-backup',
          label: 'study computer',
          taken: time.between(-95, -95, 19, 20),
          encrypted: 'yes',
          password: 'thought-known',
        }),
        copy('c2', { kind: 'person', label: 'his niece', count: 200 }),
        { fact: 'limits.money', is: 400 },
        { fact: 'limits.seenBy', is: 'us-only' },
      ],
      events: [
        { ago: 74, by: 'Ottilie Marsh', tick: 'no-passcode-guessing' },
        { ago: 73, by: 'Suda Wray', tick: 'keep-slot' },
        { ago: 72, by: 'Suda Wray', begin: 'backup-selective:c1' },
      ],
    },
    {
      // Clicking disk: laboratory before any scan.
      logged: 120,
      by: 'Jory Penn',
      facts: [
        ...client('Brass band of the lower locks', '01632 960 477'),
        ...own,
        { fact: 'title', is: 'Brass band · rehearsal recordings' },
        device({
          kind: 'external-disk',
          make: 'Mirrit Vault 2',
          storage: { kind: 'spinning-disk', fileSystem: 'exFAT', capacityBytes: 2000 * GB },
          condition: 'clicking',
        }),
        wanted('w1', {
          type: 'audio',
          title: 'rehearsal recordings',
          count: 140,
          bytes: 60 * GB,
          made: time.between(-400, -10),
          mustHave: 'none',
          lived: [{ place: 'device' }],
        }),
        ...loss({ how: 'broken', when: time.between(-8, -8), 'since.used': 'no' }),
        { fact: 'limits.money', is: 900 },
        { fact: 'limits.seenBy', is: 'anyone' },
        { fact: 'limits.worth', is: 1500 },
        { fact: 'consent.laboratory.answer', is: 'given' },
      ],
      events: [
        { ago: 118, by: 'Bram Hollis', tick: 'keep-medium-out' },
        { ago: 117, by: 'Bram Hollis', begin: 'laboratory:d1' },
        {
          ago: 116,
          by: 'Bram Hollis',
          to: 'waiting',
          waitingFor: 'laboratory',
          reason: 'Sent sealed; list of files promised within two weeks.',
        },
      ],
    },
    {
      // Nearly done: bookmarks from an archive.
      logged: 20,
      by: 'Jory Penn',
      facts: [
        ...client('Mobile library, van 2', '01632 960 590'),
        ...others('employer', 'the county library', 'Ibbie Marsh, head of the library', 'letter'),
        { fact: 'title', is: 'Mobile library · bookmarks' },
        device({
          kind: 'desktop',
          platform: 'unix-desktop',
          make: 'Mirrit tower',
          storage: { kind: 'solid-state', capacityBytes: 256 * GB, freeBytes: 140 * GB },
          lock: 'unlocked',
          condition: 'working',
        }),
        wanted('w1', {
          type: 'bookmarks',
          title: 'catalogue bookmarks',
          count: 340,
          mustHave: 'none',
          lived: [{ place: 'app' }],
        }),
        ...loss({
          how: 'deleted-in-bulk',
          when: time.between(-8, -7),
          noticed: time.between(-1, -1),
          'since.used': 'yes',
        }),
        copy('c1', { kind: 'bookmark-archive', taken: time.between(-9, -9, 8, 9) }),
      ],
      events: [
        { ago: 19, by: 'Bram Hollis', tick: 'stop-using' },
        { ago: 18.8, by: 'Bram Hollis', tick: 'export-before-turning-back' },
      ],
    },
    {
      // Ready: thesis chapter recovered from its automatic copy.
      logged: 70,
      by: 'Jory Penn',
      facts: [
        ...client('Per Vidal', '07700 900 733'),
        ...own,
        { fact: 'title', is: 'Vidal · thesis chapter' },
        device({
          kind: 'laptop',
          platform: 'maker-desktop',
          make: 'Pelloon Leaf',
          storage: { kind: 'solid-state', capacityBytes: 512 * GB, freeBytes: 80 * GB },
          lock: 'unlocked',
          condition: 'working',
        }),
        wanted('w1', {
          type: 'documents',
          title: 'chapter four',
          count: 1,
          names: 'chapter4',
          mustHave: 'all',
          lived: [{ place: 'device' }],
        }),
        ...loss({
          how: 'crashed-before-saving',
          when: time.between(-3, -3, 22, 23),
          'since.used': 'no',
          'since.installed': 'no',
        }),
      ],
      events: [
        {
          ago: 69.5,
          by: 'Jory Penn',
          hand: handedIn('Pelloon Leaf', 'PL-88-0417', 'one key missing', 'shelf B', 'Per Vidal'),
        },
        { ago: 69, by: 'Suda Wray', tick: 'stop-using' },
        { ago: 69, by: 'Suda Wray', tick: 'no-clean-up' },
        { ago: 69, by: 'Suda Wray', tick: 'save-elsewhere' },
        {
          ago: 68,
          by: 'Suda Wray',
          run: 'automatic-recovery:d1',
          minutes: 9,
          back: { w1: [1, 1] },
          note: 'Copy from four minutes before the crash.',
        },
        { ago: 67, by: 'Suda Wray', to: 'ready' },
        {
          ago: 66.9,
          by: 'Suda Wray',
          hand: { do: 'charge', run: 'r1', words: 'Automatic copy of chapter four', amount: 35 },
        },
        {
          ago: 66.8,
          by: 'Jory Penn',
          hand: { do: 'contact', way: 'called', says: 'It is ready; he comes by this week.' },
        },
      ],
    },
    {
      // Handed over yesterday, still to be closed.
      logged: 140,
      by: 'Jory Penn',
      facts: [
        ...client('Puppet theatre on the wharf', '01632 960 266'),
        ...own,
        { fact: 'title', is: 'Puppet theatre · voice tracks' },
        device({
          kind: 'recorder',
          make: 'Dunnock field recorder',
          storage: { kind: 'card', fileSystem: 'FAT32', capacityBytes: 32 * GB, freeBytes: 12 * GB },
          condition: 'working',
        }),
        wanted('w1', {
          type: 'audio',
          title: 'voice tracks',
          count: 22,
          bytes: 1.4 * GB,
          made: time.between(-20, -7),
          mustHave: 'none',
          lived: [{ place: 'card' }],
        }),
        ...loss({ how: 'deleted-singly', when: time.between(-7, -6), 'since.used': 'no' }),
      ],
      events: [
        { ago: 138, by: 'Bram Hollis', tick: 'keep-medium-out' },
        { ago: 138, by: 'Bram Hollis', tick: 'save-elsewhere' },
        {
          ago: 137,
          by: 'Bram Hollis',
          run: 'medium-deep-scan:d1',
          minutes: 14,
          back: { w1: [21, 20] },
          note: 'One track ends in the middle of a word.',
        },
        { ago: 100, by: 'Bram Hollis', to: 'ready' },
        { ago: 22, by: 'Ottilie Marsh', to: 'handed-over' },
      ],
    },
    {
      // Nobody fetched it.
      logged: 24 * 24,
      by: 'Jory Penn',
      facts: [
        ...client('Ivo Tamsin', '07700 900 909'),
        ...own,
        { fact: 'title', is: 'Tamsin · holiday photos' },
        device({
          kind: 'stick',
          make: 'Wexley stick',
          storage: { kind: 'stick', fileSystem: 'FAT32', capacityBytes: 16 * GB, freeBytes: 4 * GB },
          condition: 'working',
        }),
        wanted('w1', {
          type: 'photos',
          title: 'holiday photos',
          count: 90,
          made: time.between(-70, -60),
          mustHave: 'none',
          lived: [{ place: 'device' }],
        }),
        ...loss({ how: 'deleted-in-bulk', when: time.between(-26, -25), 'since.used': 'no' }),
      ],
      events: [
        { ago: 23.5 * 24, by: 'Suda Wray', tick: 'keep-medium-out' },
        { ago: 23.5 * 24, by: 'Suda Wray', tick: 'save-elsewhere' },
        { ago: 23.4 * 24, by: 'Suda Wray', run: 'stick-deep-scan:d1', minutes: 11, back: { w1: [88, 86] } },
        { ago: 23 * 24, by: 'Suda Wray', to: 'ready' },
        { ago: 22.9 * 24, by: 'Jory Penn', hand: { do: 'contact', way: 'no-answer', says: 'Rang twice.' } },
        { ago: 15 * 24, by: 'Jory Penn', hand: { do: 'contact', way: 'wrote', says: 'Asked to collect it.' } },
        { ago: 8 * 24, by: 'Jory Penn', to: 'uncollected' },
      ],
    },
    {
      // A closed one, to be found again.
      logged: 15 * 24,
      by: 'Ottilie Marsh',
      facts: [
        ...client('Allotments by the weir', '01632 960 655'),
        ...own,
        { fact: 'title', is: 'Allotments · plot register' },
        device({
          kind: 'desktop',
          platform: 'desktop-pc',
          make: 'Mirrit tower',
          storage: { kind: 'spinning-disk', fileSystem: 'NTFS', capacityBytes: 1000 * GB, freeBytes: 600 * GB },
          lock: 'none',
          condition: 'working',
        }),
        wanted('w1', {
          type: 'spreadsheets',
          title: 'plot register',
          count: 1,
          names: 'plots',
          mustHave: 'all',
          lived: [{ place: 'device' }],
        }),
        ...loss({ how: 'deleted-singly', when: time.between(-17, -16), 'since.used': 'yes', 'since.installed': 'no' }),
        { fact: 'devices.d1.bins.files', is: 'on' },
      ],
      events: [
        { ago: 15 * 24 - 1, by: 'Ottilie Marsh', tick: 'stop-using' },
        { ago: 15 * 24 - 1, by: 'Ottilie Marsh', tick: 'save-elsewhere' },
        {
          ago: 15 * 24 - 1,
          by: 'Ottilie Marsh',
          run: 'computer-bin:d1',
          minutes: 4,
          back: { w1: [1, 1] },
          note: 'In the bin of the second user.',
        },
        {
          ago: 14 * 24,
          by: 'Ottilie Marsh',
          hand: { do: 'outcome', ending: 'in-full', delivered: [{ wanted: 'w1', count: 1 }] },
        },
        { ago: 14 * 24, by: 'Ottilie Marsh', to: 'ready' },
        { ago: 14 * 24 - 2, by: 'Ottilie Marsh', to: 'handed-over' },
        { ago: 13 * 24, by: 'Ottilie Marsh', to: 'closed' },
      ],
    },
    {
      // Half a telling: the client had to run for the ferry.
      logged: 0.6,
      by: 'Jory Penn',
      facts: [
        ...client('Dagny Ferrers-Whitcombe of the Upper Navigation Trust', '07700 900 352'),
        device({ kind: 'phone', make: 'Ostrel Fold', condition: 'cracked' }),
        wanted('w1', { type: 'chats', count: 200 }),
        ...loss({ how: 'app-removed', when: time.between(-6, -3) }),
        copy('c1', { kind: 'app-copies', keepsFor: { minDays: 7, maxDays: 7 } }),
      ],
      events: [],
    },
    {
      // Formatted in a hurry; the names may still be read from what the format left.
      logged: 0.5,
      by: 'Jory Penn',
      facts: [
        ...client('Weavers’ yard', '01632 960 718'),
        ...others('employer', 'the weavers’ cooperative', 'Hanna Quay', 'known-here'),
        { fact: 'title', is: 'Weavers’ yard · pattern stick' },
        device({
          kind: 'stick',
          make: 'Wexley stick',
          storage: { kind: 'stick', fileSystem: 'exFAT' },
          condition: 'working',
        }),
        wanted('w1', {
          type: 'documents',
          title: 'patterns and the dye book',
          mustHave: 'none',
          lived: [{ place: 'device' }],
        }),
        wanted('w2', { type: 'photos', title: 'pictures of patterns', mustHave: 'none', lived: [{ place: 'device' }] }),
        ...loss({
          how: 'formatted',
          format: 'quick',
          when: time.between(-1, -1),
          'since.used': 'yes',
          'since.installed': 'no',
        }),
      ],
      events: [
        { ago: 0.4, by: 'Jory Penn', tick: 'keep-medium-out' },
        { ago: 0.4, by: 'Jory Penn', tick: 'save-elsewhere' },
      ],
    },
    {
      // Set up again by a helpful nephew.
      logged: 0.4,
      by: 'Jory Penn',
      facts: [
        ...client('Hanna Quay', '07700 900 431'),
        ...own,
        { fact: 'title', is: 'Hanna Quay · laptop set up again' },
        device({
          kind: 'laptop',
          platform: 'desktop-pc',
          make: 'Mirrit book',
          storage: { kind: 'spinning-disk', fileSystem: 'NTFS', encryption: 'none' },
          lock: 'none',
          condition: 'working',
        }),
        wanted('w1', { type: 'documents', title: 'letters', mustHave: 'none', lived: [{ place: 'device' }] }),
        wanted('w2', { type: 'photos', title: 'pictures', count: 12, mustHave: 'none', lived: [{ place: 'device' }] }),
        ...loss({ how: 'reinstalled', when: time.between(-2, -2), 'since.used': 'no', 'since.installed': 'yes' }),
      ],
      events: [
        { ago: 0.35, by: 'Jory Penn', tick: 'stop-using' },
        { ago: 0.35, by: 'Jory Penn', tick: 'save-elsewhere' },
      ],
    },
    {
      // A card that has been through many winters.
      logged: 0.3,
      by: 'Suda Wray',
      facts: [
        ...client('Heron watch', '01632 960 144'),
        ...others('employer', 'the heron watch', 'Odile Farr', 'letter'),
        { fact: 'title', is: 'Heron watch · worn card' },
        device({
          kind: 'camera',
          make: 'Tessel trap camera',
          storage: { kind: 'card', fileSystem: 'FAT32' },
          condition: 'working',
        }),
        wanted('w1', {
          type: 'photos',
          title: 'pictures of the nest',
          count: 12,
          mustHave: 'none',
          lived: [{ place: 'card' }],
        }),
        wanted('w2', {
          type: 'videos',
          title: 'clips of the nest',
          count: 3,
          mustHave: 'none',
          lived: [{ place: 'card' }],
        }),
        ...loss({ how: 'deleted-in-bulk', when: time.between(-1, -1), 'since.used': 'no' }),
      ],
      events: [
        { ago: 0.25, by: 'Suda Wray', tick: 'keep-medium-out' },
        { ago: 0.25, by: 'Suda Wray', tick: 'save-elsewhere' },
      ],
    },
  ]
}
