import { database } from '../content/making'
import { contacts, messages, spread } from '../content/people'
import { keep, type StoredBackup } from '../helper/things'
import { ashbyPictures, madeBefore } from './ashby-pictures'
import { computer, type StandIn } from './base'

/** The laptop at the field hut, which backed the phone up three weeks ago and would do so again tonight. */
export const fieldHutLaptop: StandIn = {
  id: 'field-hut-laptop',
  standsFor: [{ title: 'Ashby · peat survey photos', part: 'c3' }],
  make: async (making) => {
    const { time } = making
    const { survey } = await ashbyPictures(making)
    const taken = time.at(-22, 20, 15)
    const people = contacts(7, 64)
    const backup: StoredBackup = {
      id: 'field-hut',
      device: 'korvane-7',
      deviceTitle: 'Korvane 7 of Wilfreda Ashby',
      platform: 'open-phone',
      account: null,
      taken: new Date(taken).toISOString(),
      keepsBins: false,
      isSelective: true,
      password: null,
      archive: null,
      archiveBytes: 0,
      keeps: [
        keep({
          id: 'library',
          kind: 'library',
          title: 'Gallery',
          types: ['photos', 'videos'],
          items: madeBefore(survey, taken),
        }),
        keep({
          id: 'apps',
          kind: 'apps',
          title: 'Rows of its apps',
          types: ['contacts', 'messages'],
          items: [
            database(making, 'contact', people),
            database(making, 'message', messages(71, people, spread(time.at(-80, 9), taken, 120))),
          ],
        }),
      ],
    }
    return computer(making, {
      id: 'field-hut-laptop',
      title: 'Laptop at the field hut',
      platform: 'desktop-pc',
      isAsleep: true,
      keeps: [],
      backups: [backup],
    })
  },
}
