import { recordItems } from '../content/making'
import { bookmarks } from '../content/people'
import { keep } from '../helper/things'
import { computer, type StandIn } from './base'

/** The mobile library’s computer, whose browser keeps dated archives of its bookmarks. */
export const libraryVan: StandIn = {
  id: 'library-van',
  standsFor: [
    { title: 'Mobile library · bookmarks', part: 'd1' },
    { title: 'Mobile library · bookmarks', part: 'c1' },
  ],
  make: async (making) => {
    const { time } = making
    const all = bookmarks(21, 340, time.at(-400, 9))
    const days = Array.from({ length: 14 }, (_, at) => 14 - at)
    const full = recordItems('b', all, ['Browser'])
    const few = recordItems('b', all.slice(0, 31), ['Browser'])
    return computer(making, {
      id: 'library-van',
      title: 'Computer of the mobile library, van 2',
      platform: 'unix-desktop',
      keeps: [
        keep({
          id: 'bookmarks',
          kind: 'files',
          title: 'Bookmarks of today',
          types: ['bookmarks'],
          items: few.map((one) => ({ ...one })),
        }),
        ...days.map((ago) =>
          keep({
            id: `bookmarks.${ago}`,
            kind: 'earlier-state',
            title: 'Bookmark archive',
            types: ['bookmarks'],
            asOf: new Date(time.at(-ago, 8, 30)).toISOString(),
            items: ago >= 8 ? full : few,
          }),
        ),
      ],
    })
  },
}
