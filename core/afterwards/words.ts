import { sayBytes } from '../cases/telling/saying/amounts'
import type { WipedPart } from '../cases/shape/wiping'
import type { HeldCounts, WipeRecord } from './record'
import type { WipeAsk, WipeStop } from './standing'

export const PART_WORDS: Record<WipedPart, string> = { data: 'the data', person: 'the name' }

/** What each part holds, in a sentence. */
export const PART_HOLDS: Record<WipedPart, string> = {
  data: 'The shelf, safety copies, fetched backups, files brought by hand, pictures, item names, notes, and what the history says.',
  person: 'Name, contact, signatures, receipts, and what was handed in. Figures and dates stay, without a name.',
}

export const STOP_WORDS: Record<WipeStop, string> = {
  stopped: 'The case is stopped: nothing of it is wiped until an owner lifts the stop.',
  'not-ended': 'The case goes on. Its dates are counted from the return, or from its end.',
  'run-open': 'A run is still open. Record its result first.',
}

export const ASK_WORDS: Record<WipeAsk, string> = {
  unpaid: 'the account is not settled',
  'things-here': 'something of the client’s is still here',
  'loan-out': 'a loan device is still out',
}

/** What wiping means, to be read with every record. */
export const WIPING_MEANS =
  'Removed and overwritten in the database, its index and its log; files are unlinked on the disk. Unlinked files can be read from the disk until it writes over them, unless the disk is encrypted.'

const several = (count: number, one: string, more: string) =>
  count === 0 ? [] : [count === 1 ? `one ${one}` : `${count} ${more}`]

/** How much that is, in words: "12 files (3.4 MB), 812 items, 2 sheets". */
export function heldWords(held: HeldCounts): string {
  const files = several(held.files, 'file', 'files').map((words) => `${words} (${sayBytes(held.bytes)})`)
  const all = [
    ...files,
    ...several(held.items, 'listed item', 'listed items'),
    ...several(held.sheets, 'sheet', 'sheets'),
    ...several(held.pictures, 'picture', 'pictures'),
    ...several(held.secrets, 'passcode', 'passcodes'),
    ...several(held.entries, 'entry of the history', 'entries of the history'),
  ]
  return all.length === 0 ? 'nothing' : all.join(', ')
}

const WHY_WORDS: Record<WipeRecord['why'], string> = {
  date: 'because its date came',
  wish: 'by hand',
  restored: 'again, after the shop was put back from a backup',
}

/** A record in a sentence, without its date: "the data of RL-0012, by hand: 12 files (3.4 MB)". */
export const recordWords = ({ part, code, why, by, counts }: WipeRecord): string =>
  `${PART_WORDS[part]} of ${code}, ${WHY_WORDS[why]}${by ? ` (${by})` : ''}: ${heldWords(counts)}`
