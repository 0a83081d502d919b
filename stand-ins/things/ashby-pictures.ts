import { pictures, type Making } from '../content/making'
import type { StoredItem } from '../helper/things'

const made = new WeakMap<Making, Promise<{ survey: StoredItem[]; later: StoredItem[] }>>()

/** The survey’s pictures, held in several places: the phone, the account, the laptop’s backup. */
export function ashbyPictures(making: Making) {
  const known = made.get(making)
  if (known) return known
  const all = Promise.all([
    pictures(making, {
      seed: 11,
      count: 150,
      from: -44,
      to: -18,
      camera: 'Korvane 7',
      place: ['Camera', 'Peat survey'],
    }),
    pictures(making, { seed: 12, count: 16, from: -5, to: -1, camera: 'Korvane 7' }),
  ]).then(([survey, later]) => ({ survey, later }))
  made.set(making, all)
  return all
}

/** Those made before a moment (ms). */
export const madeBefore = (items: readonly StoredItem[], moment: number) =>
  items.filter((one) => one.made !== null && Date.parse(one.made) < moment)
