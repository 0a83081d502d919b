import { isComputer, isHandheld, type CONDITIONS, type Device } from '../../../cases/shape/device'
import { known } from '../../../cases/shape/fact'
import { deviceWords } from '../../../cases/telling/words'
import { on, type HoldRule } from './finding'

/** What a device is, as far as its condition forbids something. */
export const BODIES = ['handheld', 'computer', 'spinning-disk', 'other-medium'] as const
export type Body = (typeof BODIES)[number]
type Condition = (typeof CONDITIONS)[number]

/** One cell of the table: what must not be done, with {device} for its words, or why nothing need be said. */
export type Cell = { readonly hold: string; readonly what: string; readonly why: string } | { readonly nothing: string }

const DRY: Cell = {
  hold: 'no-power-while-wet',
  what: 'Do not charge {device} or switch it on',
  why: 'while it is wet, every current eats away at it',
}
const OFF: Cell = {
  hold: 'power-off',
  what: 'Leave {device} switched off',
  why: 'every start damages it more',
}
const GONE: Cell = { nothing: 'What is not here cannot be handled wrongly here.' }
const WORKS: Cell = { nothing: 'Nothing is wrong with it; what the loss forbids is said by the loss.' }
const NO_SCREEN: Cell = { nothing: 'It has no screen that its data depend on.' }
const NO_SYSTEM: Cell = { nothing: 'It runs no system that could crash.' }

/** Every condition of every kind of device. */
export const HOLDS_BY_CONDITION: Record<Condition, Record<Body, Cell>> = {
  working: { handheld: WORKS, computer: WORKS, 'spinning-disk': WORKS, 'other-medium': WORKS },
  gone: { handheld: GONE, computer: GONE, 'spinning-disk': GONE, 'other-medium': GONE },
  cracked: {
    handheld: {
      hold: 'handle-cracked',
      what: 'Do not press on {device}, and charge it only while somebody watches',
      why: 'behind a cracked screen the battery may be damaged too',
    },
    computer: NO_SCREEN,
    'spinning-disk': {
      hold: 'no-knocks',
      what: 'Lay {device} down and do not move it while it runs',
      why: 'a housing that is cracked no longer holds it still',
    },
    'other-medium': {
      hold: 'no-force',
      what: 'Do not push {device} into a reader by force',
      why: 'a crack that goes on takes the chip with it',
    },
  },
  'touch-dead': {
    handheld: {
      hold: 'keep-it-on',
      what: 'Do not restart {device} while it is unlocked',
      why: 'after a restart it asks for a code that nobody can type on it',
    },
    computer: { nothing: 'A mouse stands in for it.' },
    'spinning-disk': NO_SCREEN,
    'other-medium': NO_SCREEN,
  },
  'system-crashed': {
    handheld: {
      hold: 'no-reset',
      what: 'Decline every offer of {device} to reset or restore itself',
      why: 'the ways out that it offers erase it',
    },
    computer: {
      hold: 'no-reset',
      what: 'Let {device} neither repair nor install itself',
      why: 'both write over what is to be read',
    },
    'spinning-disk': NO_SYSTEM,
    'other-medium': NO_SYSTEM,
  },
  wet: { handheld: DRY, computer: DRY, 'spinning-disk': DRY, 'other-medium': DRY },
  'no-power': {
    handheld: {
      hold: 'no-more-tries',
      what: 'Stop trying to charge or start {device}',
      why: 'a short on its board grows with every try',
    },
    computer: {
      hold: 'no-more-tries',
      what: 'Stop trying to start {device}',
      why: 'a faulty supply can take its disk with it',
    },
    'spinning-disk': {
      hold: 'no-more-tries',
      what: 'Try no other supply on {device}, and do not open it',
      why: 'a wrong voltage or dust ends what a laboratory could still read',
    },
    'other-medium': {
      hold: 'no-more-tries',
      what: 'Do not put {device} into one reader after another',
      why: 'a contact that is short heats its chip',
    },
  },
  clicking: {
    handheld: { nothing: 'It has no moving parts.' },
    computer: OFF,
    'spinning-disk': OFF,
    'other-medium': OFF,
  },
}

export function bodyOf(device: Device): Body {
  if (isHandheld(device)) return 'handheld'
  if (isComputer(device)) return 'computer'
  return device.kind === 'external-disk' && device.storage.kind !== 'solid-state' ? 'spinning-disk' : 'other-medium'
}

/** What the condition of each device forbids; one that got wet is wet, whatever else is wrong with it. */
export const byCondition: HoldRule = ({ ofCase }) =>
  ofCase.devices.flatMap((device) => {
    const isWet = device.wet === 'wet' && device.condition !== 'gone'
    if (!isWet && !known(device.condition)) return []
    const condition = isWet ? 'wet' : (device.condition as Condition)
    const cell = HOLDS_BY_CONDITION[condition][bodyOf(device)]
    if (!('hold' in cell)) return []
    const words = { what: cell.what.replace('{device}', deviceWords(device)), why: cell.why }
    const fact = `devices.${device.id}.${isWet && device.condition !== 'wet' ? 'wet' : 'condition'}`
    return on(device, ofCase, cell.hold, words.what, words.why, [fact]).map((hold) => ({ ...hold, isForAll: true }))
  })

/** The kinds of hold that conditions bring. */
export const CONDITION_HOLDS: readonly string[] = [
  ...new Set(
    Object.values(HOLDS_BY_CONDITION)
      .flatMap((cells) => Object.values(cells))
      .flatMap((cell) => ('hold' in cell ? [cell.hold] : [])),
  ),
]
