import { clips, pictures, type Making } from '../content/making'
import { keep, type StoredItem } from '../helper/things'
import { phone, type StandIn } from './base'

const made = new WeakMap<Making, Promise<{ photos: StoredItem[]; videos: StoredItem[] }>>()

/** Hatchling pictures and nest-box clips, which the cloud holds up to a day. */
export function hatchlings(making: Making) {
  const known = made.get(making)
  if (known) return known
  const all = pictures(making, { seed: 61, count: 60, from: -60, to: -30, camera: 'Korvane Air' }).then((photos) => ({
    photos,
    videos: clips(making, { seed: 62, count: 8, from: -58, to: -32, camera: 'Korvane Air' }),
  }))
  made.set(making, all)
  return all
}

/** A closed-platform phone on which sync was switched off, which dropped what the cloud keeps. */
export const korvaneAir: StandIn = {
  id: 'korvane-air',
  standsFor: [{ title: 'Carrick · hatchling photos', part: 'd1' }],
  make: async (making) => {
    const { photos, videos } = await hatchlings(making)
    return phone(making, {
      id: 'korvane-air',
      title: 'Korvane Air of Ennis Carrick',
      platform: 'closed-phone',
      passcode: '777123',
      power: { fraction: 0.14, isCharging: false },
      sync: { account: 'carrick-account', isOn: false, types: ['photos', 'videos'], deletions: [] },
      keeps: [
        keep({
          id: 'library',
          kind: 'library',
          title: 'Pictures',
          types: ['photos', 'videos'],
          items: [
            ...(await pictures(making, { seed: 63, count: 10, from: -4, to: -1, camera: 'Korvane Air' })).map(
              (one) => ({
                ...one,
                kept: 'device' as const,
              }),
            ),
            // Of these the phone keeps only a small copy; the original is in the cloud.
            ...photos.slice(-6).map((one) => ({ ...one, kept: 'cloud' as const, isReduced: true })),
          ],
        }),
        keep({
          id: 'photo-bin',
          kind: 'bin',
          title: 'Bin of the pictures',
          types: ['photos', 'videos'],
          periodDays: 40,
          items: videos.slice(-2).map((one) => ({
            ...one,
            deleted: new Date(making.time.at(-4, 12)).toISOString(),
            presence: 'deleted' as const,
          })),
        }),
      ],
    })
  },
}
