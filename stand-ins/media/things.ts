import type { Faults } from './faults'

/** A shipped medium: its name, the archive that it is unpacked from, and the case part that it belongs to. */
export interface StandInMedium {
  readonly id: string
  readonly title: string
  readonly image: string
  readonly faults: Faults | null
  readonly standsFor: readonly { readonly title: string; readonly part: string }[]
}

const SECTOR = 512

/** A worn card: slow, with some sectors that are gone for good and some that come when they are asked again. */
const worn: Faults = {
  dead: [
    [3_300 * SECTOR, 3 * SECTOR],
    [4_100 * SECTOR, 8 * SECTOR],
  ],
  weak: [[3_230 * SECTOR, 4 * SECTOR]],
  weakTries: 1,
  bytesPerSecond: 9_000_000,
  giveUpMs: 12,
}

export const standInMedia: readonly StandInMedium[] = [
  {
    id: 'medium-survey-card',
    title: 'Card of the survey camera',
    image: 'camera-card',
    faults: null,
    standsFor: [{ title: 'Ashby · peat survey photos', part: 'c2' }],
  },
  {
    id: 'medium-pattern-stick',
    title: 'Stick of the weavers’ yard',
    image: 'weavers-stick',
    faults: null,
    standsFor: [{ title: 'Weavers’ yard · pattern stick', part: 'd1' }],
  },
  {
    id: 'medium-quay-laptop',
    title: 'Disk out of the quay laptop',
    image: 'quay-disk',
    faults: null,
    standsFor: [{ title: 'Hanna Quay · laptop set up again', part: 'd1' }],
  },
  {
    id: 'medium-records-server',
    title: 'Disk of the records server',
    image: 'guild-disk',
    faults: null,
    standsFor: [],
  },
  {
    id: 'medium-worn-card',
    title: 'Worn card of the heron watch',
    image: 'heron-card',
    faults: worn,
    standsFor: [{ title: 'Heron watch · worn card', part: 'd1' }],
  },
  {
    id: 'medium-recorder-card',
    title: 'Card of the wharf recorder',
    image: 'wharf-card',
    faults: null,
    standsFor: [],
  },
]
