import type { RouteKindInput } from './route-kind'
import { FREE } from './shared'

/** Asking whoever sent or received it. */
export const peopleKinds: readonly RouteKindInput[] = [
  {
    id: 'ask-sender',
    family: 'ask-sender',
    title: 'Ask {copy}',
    says: 'Whoever sent or received the items may still have them.',
    reads: { from: 'copy', kinds: ['person'] },
    types: [
      'photos',
      'videos',
      'audio',
      'contacts',
      'messages',
      'chats',
      'notes',
      'documents',
      'spreadsheets',
      'mail',
      'files',
      'bookmarks',
      'calendar',
    ],
    brings: { by: 'person', share: [0.1, 0.25, 0.5] },
    finds: { usual: 0.95 },
    gates: [],
    window: { rule: 'open' },
    time: { handsOn: 4, waiting: 1440, occupies: false },
    money: FREE,
    prior: {
      chance: 0.7,
      weight: 10,
      note: 'People mean well and answer late; sent pictures are often smaller than the originals.',
    },
    holds: ['privacy'],
    sheet: {
      ready: ['The client’s leave to say what is missing'],
      steps: [
        'Let the client write, or write together: what, from when, full size please.',
        'Agree where to send it.',
        'Copy what arrives to the shelf.',
      ],
      lookFor: ['Reduced copies: ask for the originals'],
      stopIf: [],
    },
    aftercare: ['Ask for originals, and keep what arrives.'],
  },
]
