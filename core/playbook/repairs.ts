import type { Case } from '../cases/shape/case'
import { isComputer, isHandheld, type Device } from '../cases/shape/device'
import { known } from '../cases/shape/fact'

/** Repairs by what is done. */
export const REPAIR_IDS = [
  'repair-screen',
  'repair-touch',
  'repair-power',
  'repair-wet',
  'repair-system',
  'repair-other-screen',
  'repair-start',
  'repair-supply',
] as const
export type RepairId = (typeof REPAIR_IDS)[number]

/** What the shop does to a device that does not work as it should, so that it can be read. */
export interface Repair {
  readonly id: RepairId
  readonly title: string
  readonly says: string
  /** how likely it can be used as it is: low, mid, high */
  readonly asItIs: readonly [number, number, number]
  /** how likely the repair makes it run where it cannot */
  readonly chance: readonly [number, number, number]
  readonly handsOn: number
  readonly waiting: number
  /** in money, where something is exchanged: the part of it that the data have to bear, since the device runs afterwards too */
  readonly price: number
  readonly note: string
  readonly sheet: {
    readonly ready: readonly string[]
    readonly steps: readonly string[]
    readonly lookFor: readonly string[]
    readonly stopIf: readonly string[]
  }
}

const NOT = [0, 0, 0] as const

/** Repairs by what is wrong, for phones and tablets and for computers. */
const HANDHELD: Partial<Record<string, Repair>> = {
  cracked: {
    id: 'repair-screen',
    title: 'See whether {device} answers, else exchange its screen',
    says: 'Behind a cracked screen everything is whole.',
    asItIs: [0.2, 0.45, 0.7],
    chance: [0.7, 0.85, 0.95],
    handsOn: 35,
    waiting: 1440,
    price: 80,
    note: 'Screens that fit are not always to be had, and a bent frame hides more damage.',
    sheet: {
      ready: ['A screen that fits', 'The client’s agreement to its price'],
      steps: [
        'Tape the glass; switch it on, and try an adapter with a mouse and another screen first.',
        'Where it does not answer, exchange the screen and leave the old one with the client.',
        'Unlock it with its owner, and copy at once.',
      ],
      lookFor: ['A bent frame or a swollen battery'],
      stopIf: ['The battery is swollen or gets hot'],
    },
  },
  'touch-dead': {
    id: 'repair-touch',
    title: 'Use {device} with a mouse on an adapter, else exchange its screen',
    says: 'It runs; only its touch is dead.',
    asItIs: [0.5, 0.75, 0.9],
    chance: [0.7, 0.85, 0.95],
    handsOn: 15,
    waiting: 60,
    price: 80,
    note: 'Most of them take a mouse; some ask for the passcode before they do.',
    sheet: {
      ready: ['Adapter, mouse, keyboard', 'A screen that fits, for the worst case'],
      steps: ['Connect mouse and keyboard by the adapter.', 'Type the passcode, and copy at once.'],
      lookFor: ['Whether it asks for the passcode before it accepts the mouse'],
      stopIf: ['It offers to erase itself after wrong codes'],
    },
  },
  'system-crashed': {
    id: 'repair-system',
    title: 'Repair the system of {device} without erasing it',
    says: 'A system that does not start can be installed over itself, with everything left in its place.',
    asItIs: [0.1, 0.3, 0.55],
    chance: [0.1, 0.25, 0.45],
    handsOn: 30,
    waiting: 60,
    price: 0,
    note: 'The update that keeps everything works now and then; the other one erases it.',
    sheet: {
      ready: ['Charge above half', 'The system of exactly this model, from the maker'],
      steps: ['Choose the update that keeps what is on it; never the one that restores.', 'Copy as soon as it starts.'],
      lookFor: ['The word erase in any question that it asks'],
      stopIf: ['The only way on erases it'],
    },
  },
  'no-power': {
    id: 'repair-power',
    title: 'Exchange the battery, the port or the board power of {device}',
    says: 'A phone without power still holds everything.',
    asItIs: NOT,
    chance: [0.35, 0.6, 0.8],
    handsOn: 35,
    waiting: 1440,
    price: 50,
    note: 'Battery and port are often the cause; a board that is dead is beyond the bench.',
    sheet: {
      ready: ['A battery that fits', 'A supply that shows the current'],
      steps: [
        'Measure the current at the port; clean the port.',
        'Exchange battery or port, whichever the reading points to.',
        'Look for a short on the board before more is exchanged.',
        'Copy as soon as it starts.',
      ],
      lookFor: ['Heat at one place of the board', 'Marks of water'],
      stopIf: ['The board draws a short current: laboratory'],
    },
  },
  wet: {
    id: 'repair-wet',
    title: 'Clean and dry {device}, then exchange what corroded',
    says: 'What is cleaned before it is charged often runs for long enough to be copied.',
    asItIs: NOT,
    chance: [0.2, 0.4, 0.6],
    handsOn: 50,
    waiting: 2880,
    price: 60,
    note: 'It depends on how soon it is opened, and on what it lay in.',
    sheet: {
      ready: ['Cleaning bath, warm air, a battery that fits'],
      steps: [
        'Open it without switching it on; take the battery out.',
        'Clean the board, dry it for two days, look at it under the microscope.',
        'Power it from the supply, with a limit on the current, and copy at once.',
      ],
      lookFor: ['Green or white deposits'],
      stopIf: ['The current jumps: laboratory'],
    },
  },
}

const COMPUTER: Partial<Record<string, Repair>> = {
  cracked: {
    id: 'repair-other-screen',
    title: 'Use {device} with another screen',
    says: 'Behind a cracked screen everything is whole.',
    asItIs: [0.8, 0.93, 0.98],
    chance: [0.3, 0.5, 0.7],
    handsOn: 8,
    waiting: 0,
    price: 0,
    note: 'Nearly every computer answers on another screen.',
    sheet: {
      ready: ['A screen and its cable'],
      steps: ['Connect the screen before it is switched on.', 'Copy what is wanted to the shelf.'],
      lookFor: ['Whether it shows the sign-in on the broken screen only'],
      stopIf: ['It gets hot or smells'],
    },
  },
  'system-crashed': {
    id: 'repair-start',
    title: 'Start {device} from another medium',
    says: 'A system that does not start leaves the disk whole; started from another medium, it can be read.',
    asItIs: NOT,
    chance: [0.75, 0.88, 0.96],
    handsOn: 15,
    waiting: 5,
    price: 0,
    note: 'It fails where the disk itself is the cause, or where its encryption asks for a key that nobody has.',
    sheet: {
      ready: ['A medium to start from', 'The key of the disk’s encryption, where it has one'],
      steps: ['Start from the medium, with the disk read only.', 'Copy what is wanted to the shelf.'],
      lookFor: ['Read errors: then stop, and image the disk instead'],
      stopIf: ['The disk makes noises or vanishes'],
    },
  },
  'no-power': {
    id: 'repair-supply',
    title: 'Exchange the power part of {device}',
    says: 'A computer without power still holds everything on its disk.',
    asItIs: NOT,
    chance: [0.35, 0.6, 0.8],
    handsOn: 35,
    waiting: 1440,
    price: 50,
    note: 'Often it is the supply; a dead board is beyond the bench, and its disk is read elsewhere.',
    sheet: {
      ready: ['A supply of the right voltage, with a limit on the current'],
      steps: [
        'Take the disk out first, so that no fault reaches it.',
        'Measure what the board draws; exchange supply, port or battery, whichever the reading points to.',
        'Put the disk back once it starts without it.',
      ],
      lookFor: ['Heat at one place of the board', 'Marks of water'],
      stopIf: ['The board draws a short current: read the disk in another computer'],
    },
  },
  wet: HANDHELD.wet!,
}

/** The repair that comes first on a device in its condition; null where it needs none, or where none is known here. */
export function repairOf(device: Device | null): Repair | null {
  if (!device || !known(device.condition)) return null
  const table = isHandheld(device) ? HANDHELD : isComputer(device) ? COMPUTER : {}
  // What got wet and does not start is cleaned before anything is exchanged.
  return table[device.condition === 'no-power' && device.wet === 'wet' ? 'wet' : device.condition] ?? null
}

/** How likely it runs in the end: as it is, or after the repair. */
export function runsAfter({ asItIs, chance }: Repair): [number, number, number] {
  const of = (at: 0 | 1 | 2) => asItIs[at] + (1 - asItIs[at]) * chance[at]
  return [of(0), of(1), of(2)]
}

/** The repair of a kind, by its id. */
export function repairById(id: string): Repair | null {
  return [...Object.values(HANDHELD), ...Object.values(COMPUTER)].find((one) => one?.id === id) ?? null
}

/** What came of the last repair of a device: it runs, it does not, or nobody has tried yet. */
export function repairOutcome({ runs }: Case, deviceId: string): 'worked' | 'failed' | null {
  const last = runs.findLast((run) => run.option === `repair:${deviceId}` && run.ended !== null)
  if (!last || last.cause === 'out-of-time' || last.cause === 'client-stopped') return null
  return last.failedOn === null && !last.hasFailed ? 'worked' : 'failed'
}
