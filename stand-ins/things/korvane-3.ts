import { binned, brokenOff, database, file, pictures, recordItems } from '../content/making'
import { contacts, messages, notes, spread } from '../content/people'
import { keep } from '../helper/things'
import { phone, type StandIn } from './base'

/** An older open-platform phone without encryption, to practise on: full bins of every kind, and one damaged picture. */
export const korvane3: StandIn = {
  id: 'korvane-3',
  make: async (making) => {
    const { time } = making
    const people = contacts(37, 22)
    const shots = await pictures(making, { seed: 38, count: 14, from: -30, to: -3, camera: 'Korvane 3' })
    const [first, ...rest] = shots
    return phone(making, {
      id: 'korvane-3',
      title: 'Korvane 3, the shop’s own to practise on',
      platform: 'open-phone',
      encryption: 'none',
      passcode: null,
      triesLeft: null,
      power: { fraction: 0.8, isCharging: true },
      sync: { account: 'carrick-account', isOn: false, types: ['photos'], deletions: [] },
      keeps: [
        keep({ id: 'library', kind: 'library', title: 'Gallery', types: ['photos', 'videos'], items: rest.slice(8) }),
        keep({
          id: 'photo-bin',
          kind: 'bin',
          title: 'Bin of the gallery',
          types: ['photos', 'videos'],
          periodDays: 30,
          items: binned([brokenOff(making, first!), ...rest.slice(0, 8)], time.at(-2, 19)),
        }),
        keep({
          id: 'notes-bin',
          kind: 'bin',
          title: 'Bin of the notes',
          types: ['notes'],
          periodDays: 30,
          items: binned(
            recordItems('n', notes(39, spread(time.at(-60, 9), time.at(-10, 9), 5)), ['Notes']),
            time.at(-6, 12),
          ),
        }),
        keep({
          id: 'message-bin',
          kind: 'bin',
          title: 'Bin of the messages',
          types: ['messages'],
          periodDays: 30,
          items: binned(
            recordItems('m', messages(40, people, spread(time.at(-50, 9), time.at(-12, 9), 12)), ['Messages']),
            time.at(-11, 12),
          ),
        }),
        keep({
          id: 'file-bin',
          kind: 'bin',
          title: 'Bin of the files',
          types: ['documents', 'files', 'audio'],
          periodDays: 30,
          items: binned([file(making, 'f1', 'Download/timetable.txt', 'Ferry: 8:05, 12:40, 17:15\n')], time.at(-29, 8)),
        }),
        keep({ id: 'files', kind: 'files', title: 'Files', types: ['documents', 'files', 'audio'] }),
        keep({
          id: 'apps',
          kind: 'apps',
          title: 'Rows of its apps',
          types: ['contacts', 'messages', 'notes'],
          items: [
            database(making, 'contact', people.slice(0, 18), people.slice(18)),
            database(making, 'message', messages(42, people, spread(time.at(-40, 9), time.at(-1, 9), 30))),
            database(making, 'note', notes(44, spread(time.at(-40, 9), time.at(-1, 9), 4))),
          ],
        }),
      ],
    })
  },
}
