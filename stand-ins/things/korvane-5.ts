import { database, pictures } from '../content/making'
import { contacts, messages, spread } from '../content/people'
import { keep } from '../helper/things'
import { phone, type StandIn } from './base'

/** A locked phone whose passcode nobody knows; a few wrong ones have been tried already, and it erases itself. */
export const korvane5: StandIn = {
  id: 'korvane-5',
  standsFor: [{ title: 'Thane · her brother’s messages', part: 'd1' }],
  make: async (making) => {
    const people = contacts(5, 30)
    return phone(making, {
      id: 'korvane-5',
      title: 'Korvane 5 of the late Mr Thane',
      platform: 'closed-phone',
      passcode: '851230',
      triesLeft: 4,
      keeps: [
        keep({
          id: 'library',
          kind: 'library',
          title: 'Pictures',
          types: ['photos', 'videos'],
          items: await pictures(making, { seed: 51, count: 24, from: -300, to: -62, camera: 'Korvane 5' }),
        }),
        keep({
          id: 'photo-bin',
          kind: 'bin',
          title: 'Bin of the pictures',
          types: ['photos', 'videos'],
          periodDays: 40,
        }),
        keep({
          id: 'apps',
          kind: 'apps',
          title: 'Rows of its apps',
          types: ['contacts', 'messages'],
          items: [
            database(making, 'contact', people),
            database(
              making,
              'message',
              messages(52, people, spread(making.time.at(-700, 9), making.time.at(-61, 9), 240)),
            ),
          ],
        }),
      ],
    })
  },
}
