import { database } from '../content/making'
import { contacts, notes, spread } from '../content/people'
import { keep, type StoredBackup, type StoredKeep } from '../helper/things'
import { account, type StandIn } from './base'
import { byrneNotes } from './pelloon-slate'

/** Two nightly backups of the tablet: one from before the notes were deleted, one from after. */
export const byrneAccount: StandIn = {
  id: 'byrne-account',
  standsFor: [{ title: 'Byrne · infirmary notes', part: 'c1' }],
  make: async (making) => {
    const { time } = making
    const { all, left } = byrneNotes(time)
    const newer = notes(32, spread(time.at(-12, 9), time.at(-4, 9), 4))
    const backup = (id: string, taken: number, content: StoredKeep[]): StoredBackup => ({
      id,
      device: 'pelloon-slate',
      deviceTitle: 'Pelloon Slate of Sister Clodagh Byrne',
      platform: 'closed-phone',
      account: 'byrne-account',
      taken: new Date(taken).toISOString(),
      keepsBins: false,
      isSelective: true,
      password: null,
      archive: null,
      archiveBytes: 0,
      keeps: content,
    })
    const apps = (rows: Parameters<typeof database>[2]) =>
      keep({
        id: 'apps',
        kind: 'apps',
        title: 'Rows of its apps',
        types: ['notes', 'contacts'],
        items: [database(making, 'note', rows), database(making, 'contact', contacts(34, 40))],
      })
    return account(making, {
      id: 'byrne-account',
      title: 'Account of Sister Clodagh Byrne',
      name: 'infirmary@example.org',
      owner: 'Sister Clodagh Byrne',
      password: 'woodruff-and-wax',
      bytesPerSecond: 60_000,
      slots: 2,
      keeps: [
        keep({ id: 'library', kind: 'library', title: 'Library', types: ['photos', 'videos'] }),
        keep({
          id: 'library-bin',
          kind: 'bin',
          title: 'Bin of the library',
          types: ['photos', 'videos'],
          periodDays: 30,
        }),
      ],
      backups: [
        backup('before', time.at(-19, 2, 30), [apps(all)]),
        backup('after', time.at(-3, 2, 30), [apps([...left, ...newer])]),
      ],
    })
  },
}
