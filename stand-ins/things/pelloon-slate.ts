import { database, pictures } from '../content/making'
import { contacts, notes, spread } from '../content/people'
import { keep } from '../helper/things'
import { phone, type StandIn } from './base'

/** The notes that the tablet still has, and those that were deleted; its bin has been emptied. */
export function byrneNotes(time: { at(days: number, hour: number): number }) {
  const all = notes(31, spread(time.at(-200, 9), time.at(-20, 18), 36))
  const lost = all.filter((_, at) => at % 3 !== 0)
  return { all, lost, left: all.filter((one) => !lost.includes(one)) }
}

/** A closed-platform tablet whose notes were deleted singly and are gone from the bin; it backs itself up every night. */
export const pelloonSlate: StandIn = {
  id: 'pelloon-slate',
  standsFor: [{ title: 'Byrne · infirmary notes', part: 'd1' }],
  make: async (making) => {
    const { time } = making
    const { lost, left } = byrneNotes(time)
    const newer = notes(32, spread(time.at(-12, 9), time.at(-1, 9), 5))
    return phone(making, {
      id: 'pelloon-slate',
      title: 'Pelloon Slate of Sister Clodagh Byrne',
      platform: 'closed-phone',
      passcode: '140925',
      power: { fraction: 0.41, isCharging: false },
      nightly: { account: 'byrne-account', isOn: true, hour: 2, minute: 30, slots: 2, keepsBins: false },
      keeps: [
        keep({
          id: 'library',
          kind: 'library',
          title: 'Pictures',
          types: ['photos', 'videos'],
          items: await pictures(making, { seed: 33, count: 12, from: -90, to: -2, camera: 'Pelloon Slate' }),
        }),
        keep({ id: 'notes-bin', kind: 'bin', title: 'Bin of the notes', types: ['notes'], periodDays: 30 }),
        keep({
          id: 'apps',
          kind: 'apps',
          title: 'Rows of its apps',
          types: ['notes', 'contacts'],
          items: [
            // Half of the deleted notes have been written over since.
            database(
              making,
              'note',
              [...left, ...newer],
              lost.filter((_, at) => at % 2 === 0),
            ),
            database(making, 'contact', contacts(34, 40)),
          ],
        }),
      ],
    })
  },
}
