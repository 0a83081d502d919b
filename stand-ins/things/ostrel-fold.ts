import { database, file, pictures } from '../content/making'
import { contacts, messages, spread } from '../content/people'
import { keep } from '../helper/things'
import { phone, type StandIn } from './base'

/** A phone with a cracked screen that takes no passcode; it answers only to the office’s computer, which it had trusted. */
export const ostrelFold: StandIn = {
  id: 'ostrel-fold',
  standsFor: [{ title: 'Dagny Ferrers-Whitcombe of the Upper Navigation Trust', part: 'd1' }],

  make: async (making) => {
    const { time } = making
    const people = contacts(91, 26)
    const gone = messages(92, people, spread(time.at(-120, 9), time.at(-7, 20), 180))
    const sent = await pictures(making, { seed: 93, count: 6, from: -80, to: -10, camera: 'Ostrel Fold' })
    return phone(making, {
      id: 'ostrel-fold',
      title: 'Ostrel Fold of Dagny Ferrers-Whitcombe',
      platform: 'closed-phone',
      passcode: '405060',
      screen: 'cracked',
      trusts: ['navigation-office'],
      keeps: [
        keep({
          id: 'message-bin',
          kind: 'bin',
          title: 'Bin of the messages',
          types: ['messages'],
          periodDays: 30,
        }),
        keep({
          id: 'files',
          kind: 'files',
          title: 'Attachments',
          types: ['photos', 'files'],
          items: [
            ...sent.map((one, at) => ({
              ...one,
              id: `sent-${at}`,
              name: `sluice-${at}.jpg`,
              place: ['Messages', 'Attachments'],
            })),
            file(making, 'note', 'Messages/Attachments/tides.txt', 'High water 14:20\nLow water 20:41\n'),
          ],
        }),
        keep({
          id: 'apps',
          kind: 'apps',
          title: 'Rows of its apps',
          types: ['messages', 'contacts'],
          items: [
            database(making, 'message', messages(94, people, spread(time.at(-3, 9), time.at(0, 8), 20)), gone),
            database(making, 'contact', people),
          ],
        }),
      ],
    })
  },
}
