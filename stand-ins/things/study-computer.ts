import { database, pictures } from '../content/making'
import { contacts, messages, spread } from '../content/people'
import { keep, type StoredBackup } from '../helper/things'
import { computer, type StandIn } from './base'

/** The study’s computer, which the locked phone had trusted, with an encrypted backup of it from before. */
export const studyComputer: StandIn = {
  id: 'study-computer',
  standsFor: [{ title: 'Thane · her brother’s messages', part: 'c1' }],
  make: async (making) => {
    const { time } = making
    const taken = time.at(-95, 19, 30)
    const people = contacts(5, 30)
    const all = messages(52, people, spread(time.at(-700, 9), time.at(-96, 9), 220))
    const backup: StoredBackup = {
      id: 'study',
      device: 'korvane-5',
      deviceTitle: 'Korvane 5 of the late Mr Thane',
      platform: 'closed-phone',
      account: null,
      taken: new Date(taken).toISOString(),
      keepsBins: false,
      isSelective: true,
      password: 'larkspur gate 1961',
      archive: null,
      archiveBytes: 0,
      keeps: [
        keep({
          id: 'library',
          kind: 'library',
          title: 'Pictures',
          types: ['photos', 'videos'],
          items: await pictures(making, { seed: 51, count: 20, from: -300, to: -97, camera: 'Korvane 5' }),
        }),
        keep({
          id: 'apps',
          kind: 'apps',
          title: 'Rows of its apps',
          types: ['contacts', 'messages'],
          items: [database(making, 'contact', people), database(making, 'message', all.slice(0, 200), all.slice(200))],
        }),
      ],
    }
    return computer(making, {
      id: 'study-computer',
      title: 'Study computer of the late Mr Thane',
      platform: 'maker-desktop',
      password: 'gillyflower',
      keeps: [],
      backups: [backup],
    })
  },
}
