import type { RecordOf } from '../../core/records/record'
import { chances, pick } from './chance'

const GIVEN = [
  'Alma',
  'Bertil',
  'Cosima',
  'Darragh',
  'Elspet',
  'Fenn',
  'Gwil',
  'Hanne',
  'Idris',
  'Jorun',
  'Kezia',
  'Lowen',
  'Merrin',
  'Niall',
  'Orla',
  'Petroc',
  'Quill',
  'Rhona',
  'Sorrel',
  'Tamsyn',
]
const FAMILY = [
  'Aldous',
  'Brack',
  'Culver',
  'Dunmore',
  'Eskdale',
  'Farrow',
  'Gaunt',
  'Hollin',
  'Inskip',
  'Jessop',
  'Kettle',
  'Lorimer',
  'Marl',
  'Nettle',
  'Osgood',
  'Pike',
  'Quarrie',
  'Rook',
  'Stell',
  'Tarn',
]
const LINES = [
  'The lock is closed until four, come round by the mill.',
  'Have you still got the key for the boat shed?',
  'Picture of the sluice attached.',
  'No worries, Thursday works.',
  'They found the heron again, same post as last year.',
  'Can you ring the office about the dredging?',
  'Bring the long waders, it is up to the knee.',
  'Thank you for yesterday.',
  'Meeting moved to half past six.',
  'I will leave it with the lock keeper.',
]

/** Made-up people with numbers that are kept free for such use. */
export function contacts(seed: number, count: number): RecordOf<'contact'>[] {
  const chance = chances(seed)
  return Array.from({ length: count }, (_, at) => {
    const given = GIVEN[at % GIVEN.length]!
    const family = FAMILY[(Math.floor(at / GIVEN.length) + at * 7 + seed) % FAMILY.length]!
    const digits = String(Math.floor(chance() * 1000)).padStart(3, '0')
    return {
      kind: 'contact',
      name: `${given} ${family}`,
      phones: [at % 3 === 0 ? `01632 960 ${digits}` : `07700 900 ${digits}`],
      mails: at % 4 === 0 ? [`${given}.${family}${at}@example.org`.toLowerCase()] : [],
      organisation: at % 5 === 0 ? 'Upper Navigation Trust' : '',
      note: '',
    }
  })
}

/** Messages with some of these people, at these times (ms). */
export function messages(
  seed: number,
  people: readonly RecordOf<'contact'>[],
  times: readonly number[],
): RecordOf<'message'>[] {
  const chance = chances(seed)
  return times.map((at, number) => {
    const text = pick(LINES, chance)
    return {
      kind: 'message',
      thread: pick(people, chance).phones[0]!,
      isMine: chance() < 0.45,
      text: `${text} (${number + 1})`,
      at: new Date(at).toISOString(),
      attachments: text.includes('attached') ? [`sluice-${number}.jpg`] : [],
    }
  })
}

export function calls(
  seed: number,
  people: readonly RecordOf<'contact'>[],
  times: readonly number[],
): RecordOf<'call'>[] {
  const chance = chances(seed)
  return times.map((at) => {
    const who = pick(people, chance)
    return {
      kind: 'call',
      number: who.phones[0]!,
      name: who.name,
      at: new Date(Math.floor(at / 1000) * 1000).toISOString(),
      seconds: Math.floor(chance() * 900),
      direction: pick(['in', 'out', 'missed'] as const, chance),
    }
  })
}

const NOTE_TITLES = [
  'Ward round',
  'Linen order',
  'Visitors',
  'Herb bed',
  'Night list',
  'Doses to ask about',
  'Roof leak',
  'Choir',
  'Letter to the bishop',
  'Stores',
]

export function notes(seed: number, times: readonly number[]): RecordOf<'note'>[] {
  const chance = chances(seed)
  return times.map((at, number) => ({
    kind: 'note',
    title: `${NOTE_TITLES[number % NOTE_TITLES.length]} ${number + 1}`,
    text: `${pick(LINES, chance)}\n${pick(LINES, chance)}\n${'Look in again on Friday. '.repeat(1 + Math.floor(chance() * 6))}`,
    changed: new Date(Math.floor(at / 1000) * 1000).toISOString(),
  }))
}

export function bookmarks(seed: number, count: number, added: number): RecordOf<'bookmark'>[] {
  const chance = chances(seed)
  return Array.from({ length: count }, (_, at) => ({
    kind: 'bookmark',
    title: `${pick(['Catalogue', 'Village stop', 'Reading list', 'Story hour', 'Loans'], chance)} ${at + 1}`,
    url: `https://shelf-${at + 1}.example/${Math.floor(chance() * 9999)}`,
    folder: [pick(['Stops', 'Catalogue', 'Schools'], chance)],
    added: new Date(added + at * 3_600_000).toISOString(),
  }))
}

export function events(seed: number, times: readonly number[]): RecordOf<'event'>[] {
  const chance = chances(seed)
  return times.map((at) => ({
    kind: 'event',
    title: pick(['Peat survey', 'Weed count', 'Committee', 'Boat inspection', 'Dentist'], chance),
    starts: new Date(Math.floor(at / 1000) * 1000).toISOString(),
    ends: new Date(Math.floor(at / 1000) * 1000 + 3_600_000).toISOString(),
    place: pick(['Field hut', 'Lock 7', 'Town hall'], chance),
    note: '',
    isAllDay: false,
  }))
}

/** Times spread over days, ms. */
export function spread(from: number, to: number, count: number): number[] {
  return Array.from({ length: count }, (_, at) => Math.round(from + ((to - from) * (at + 0.5)) / count))
}
