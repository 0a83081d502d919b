import { binned, database, pictures } from '../content/making'
import { bookmarks, calls, contacts, events, messages, notes, spread } from '../content/people'
import { keep } from '../helper/things'
import { phone, type StandIn } from './base'
import { ashbyPictures } from './ashby-pictures'

/** An open-platform phone whose survey pictures were deleted in bulk; its gallery’s bin was on, its storage is nearly full. */
export const korvane7: StandIn = {
  id: 'korvane-7',
  standsFor: [{ title: 'Ashby · peat survey photos', part: 'd1' }],
  make: async (making) => {
    const { time } = making
    const { survey, later } = await ashbyPictures(making)
    const older = await pictures(making, { seed: 13, count: 18, from: -120, to: -60, camera: 'Korvane 7' })
    const people = contacts(7, 64)
    const times = (count: number) => spread(time.at(-80, 9), time.at(-1, 20), count)
    return phone(making, {
      id: 'korvane-7',
      title: 'Korvane 7 of Wilfreda Ashby',
      platform: 'open-phone',
      passcode: '190677',
      triesLeft: null,
      power: { fraction: 0.34, isCharging: false },
      room: { capacity: 128_000_000_000, other: 127_999_200_000 },
      sync: { account: 'ashby-account', isOn: true, types: ['photos'], deletions: [] },
      keeps: [
        keep({
          id: 'library',
          kind: 'library',
          title: 'Gallery',
          types: ['photos', 'videos'],
          items: [
            ...older.map((one) => ({ ...one, kept: 'both' as const })),
            ...later.map((one) => ({ ...one, kept: 'device' as const })),
          ],
        }),
        keep({
          id: 'photo-bin',
          kind: 'bin',
          title: 'Bin of the gallery',
          types: ['photos', 'videos'],
          periodDays: 30,
          items: binned(survey, time.at(-8, 18)),
        }),
        keep({
          id: 'file-bin',
          kind: 'bin',
          title: 'Bin of the files',
          types: ['documents', 'files'],
          periodDays: 30,
          isOn: false,
        }),
        keep({
          id: 'apps',
          kind: 'apps',
          title: 'Rows of its apps',
          types: ['contacts', 'messages', 'call-records', 'notes', 'bookmarks', 'calendar'],
          items: [
            database(making, 'contact', people.slice(0, 58), people.slice(58)),
            database(making, 'message', messages(71, people, times(160)), messages(72, people, times(40))),
            database(making, 'call', calls(73, people, times(60)), calls(74, people, times(12))),
            database(making, 'note', notes(75, times(14)), notes(76, times(6))),
            database(making, 'bookmark', bookmarks(77, 20, time.at(-60, 9)), bookmarks(78, 8, time.at(-50, 9))),
            database(making, 'event', events(79, times(30)), events(80, times(9))),
          ],
        }),
      ],
    })
  },
}
