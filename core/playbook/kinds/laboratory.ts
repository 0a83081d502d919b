import type { RouteKindInput } from './route-kind'

/** Handing the medium to a laboratory. */
export const laboratoryKinds: readonly RouteKindInput[] = [
  {
    id: 'laboratory',
    family: 'lab',
    title: 'Laboratory, for {copy}',
    says: 'Repairs or opens the medium and reads what is left; expensive, slow, and others see the data.',
    reads: {
      from: 'storage',
      devices: [
        'phone',
        'tablet',
        'laptop',
        'desktop',
        'server',
        'card',
        'stick',
        'external-disk',
        'camera',
        'recorder',
      ],
      media: true,
    },
    types: 'all',
    brings: { by: 'storage', broken: true },
    finds: { usual: 0.95, rows: 0.85 },
    gates: [{ gate: 'consent-laboratory' }, { gate: 'price' }],
    window: { rule: 'reused' },
    by: 'begun',
    time: { handsOn: 30, waiting: 14_400, occupies: false },
    money: { look: 80, take: 520 },
    prior: {
      chance: 0.72,
      weight: 8,
      note: 'From partners’ quotes: look fee always, the rest only where data comes back.',
    },
    holds: ['keep-medium-out', 'power-off', 'stop-using', 'warranty', 'privacy'],
    sheet: {
      ready: ['Consent that a laboratory sees the data', 'Price limit in writing', 'Padded box, seal, receipt'],
      steps: [
        'Pack it as it is; do not try once more.',
        'Write down serial number and seal.',
        'Send with what is wanted and what was tried.',
      ],
      lookFor: ['The list of files before anything is paid'],
      stopIf: ['The quote is above the client’s limit'],
    },
    aftercare: ['A disk that has been opened once is never used again.'],
  },
]
