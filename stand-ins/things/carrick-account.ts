import { keep } from '../helper/things'
import { account, type StandIn } from './base'
import { hatchlings } from './korvane-air'

/** An account whose library still holds what the phone dropped; some of it only as smaller copies. */
export const carrickAccount: StandIn = {
  id: 'carrick-account',
  standsFor: [{ title: 'Carrick · hatchling photos', part: 'c1' }],
  make: async (making) => {
    const { photos, videos } = await hatchlings(making)
    return account(making, {
      id: 'carrick-account',
      title: 'Account of Ennis Carrick',
      name: 'ennis@example.org',
      owner: 'Ennis Carrick',
      password: 'plover-egg-5',
      secondFactor: '330918',
      sessionMinutes: 20,
      keeps: [
        keep({
          id: 'library',
          kind: 'library',
          title: 'Library',
          types: ['photos', 'videos'],
          items: [
            ...photos.map((one, at) => ({ ...one, kept: 'cloud' as const, isReduced: at < 8 })),
            ...videos.map((one) => ({ ...one, kept: 'cloud' as const })),
          ],
        }),
        keep({
          id: 'library-bin',
          kind: 'bin',
          title: 'Bin of the library',
          types: ['photos', 'videos'],
          periodDays: 30,
        }),
      ],
    })
  },
}
