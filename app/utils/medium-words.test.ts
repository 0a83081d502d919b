import { describe, expect, it, vi } from 'vitest'
import type { MediumShape, PassProgress, PassShape } from '../../core/bench/medium'
import { aboutTime, leftWords, mediumSays, passSays, percentOf, rateSays, systemSays, volumeSays } from './medium-words'
import { queryOf } from './query-of'
import { countOf, sizeWords } from './sizes'

// In the app these are at hand everywhere.
vi.stubGlobal('sizeWords', sizeWords)
vi.stubGlobal('countOf', countOf)

const progress: PassProgress = {
  phase: 'content',
  done: 250,
  of: 1000,
  at: 250,
  found: 7,
  byType: {},
  wanted: 3,
  bytesRead: 250,
  seconds: 130,
  readSeconds: 0,
  secondsLeft: 390,
  unreadable: [],
  unreadableBytes: 0,
}
const pass = (more: Partial<PassShape>) =>
  ({
    state: 'running',
    says: '',
    progress,
    waitsFor: 0,
    options: { pass: 'both' },
    ...more,
  }) as PassShape

describe('how long something takes', () => {
  it.each([
    [0, 'a few seconds'],
    [4.9, 'a few seconds'],
    [12, '15 s'],
    [54, '55 s'],
    [61, '2 min'],
    [50 * 60, '50 min'],
    [59 * 60, '1 h'],
    [5 * 3600 + 900, '5.5 h'],
  ])('%d seconds are %s', (seconds, words) => {
    expect(aboutTime(seconds)).toBe(words)
  })

  it('is said of what is left', () => {
    expect([leftWords(2), leftWords(700)]).toEqual(['a few seconds left', 'about 12 min left'])
  })
})

describe('sizes and counts', () => {
  it.each([
    [0, '0 bytes'],
    [999, '999 bytes'],
    [1000, '1 kB'],
    [64_000_000_000, '64 GB'],
    [512_110_190_592, '512 GB'],
    [5e15, '5000 TB'],
  ])('%d bytes are %s', (bytes, words) => {
    expect(sizeWords(bytes)).toBe(words)
  })

  it('stand with their noun', () => {
    expect([countOf(1, 'item'), countOf(2400, 'item'), countOf(0, 'entry', 'entries')]).toEqual([
      '1 item',
      '2,400 items',
      '0 entries',
    ])
  })
})

describe('a medium', () => {
  const volume = {
    index: 0,
    scheme: 'none',
    offset: 0,
    bytes: 1,
    label: null,
    fileSystem: null,
    verdict: 'unknown',
    says: 'No file system was recognised.',
    lock: null,
  } as const
  const medium = (more: Partial<MediumShape>) =>
    mediumSays({ bytes: 64e9, volumes: [], isDevice: false, ...more } as MediumShape)

  it('is described with its volumes, as read only', () => {
    expect(medium({ volumes: [{ ...volume, fileSystem: 'FAT32', label: 'SURVEY' }, volume], isDevice: true })).toBe(
      'device, 64 GB, FAT32 “SURVEY” and unknown file system, opened read only',
    )
    expect(medium({})).toBe('64 GB, no volume, opened read only')
    const lost = { ...volume, scheme: 'found', fileSystem: 'NTFS', verdict: 'read' } as const
    expect(medium({ volumes: [{ ...volume, verdict: 'encrypted' }, lost] })).toBe(
      '64 GB, encrypted and lost NTFS, opened read only',
    )
  })

  it('says of its volumes what has to be known before a scan, and nothing of those that are simply read', () => {
    const of = (...volumes: MediumShape['volumes']) => volumeSays({ volumes } as unknown as MediumShape)
    const locked = { ...volume, verdict: 'encrypted', says: 'Ask for the key.' } as const
    const read = { ...volume, index: 1, fileSystem: 'FAT32', verdict: 'read', says: 'FAT32.' } as const
    expect(of(locked)).toEqual([{ key: 0, says: 'Ask for the key.', isGrave: true }])
    expect(of(read)).toEqual([])
    const opened = { ...read, lock: 'opened', says: 'Opened with its passphrase.' } as const
    expect(of(opened)).toEqual([{ key: 1, says: 'Opened with its passphrase.', isGrave: false }])
    expect(of(read, { ...read, index: 2, scheme: 'found', offset: 2e6, label: 'OLD' })).toEqual([
      { key: 2, says: '“OLD” at 2 MB: Lost volume, named by no table. FAT32.', isGrave: false },
    ])
  })
})

it.each([
  [{ fileSystem: 'FAT32', verdict: 'read' }, 'FAT32'],
  [{ fileSystem: null, verdict: 'unknown' }, 'unknown file system: only the content can be scanned'],
  [{ fileSystem: null, verdict: 'encrypted' }, 'encrypted'],
] as const)('the system of a volume: %j', (volume, words) => expect(systemSays(volume)).toBe(words))

describe('a pass', () => {
  it('is described by its state and progress', () => {
    expect(passSays(pass({ progress: null }))).toBe('about to start')
    expect(passSays(pass({}))).toBe('25% read')
    expect(passSays(pass({ state: 'queued', waitsFor: 2 }))).toBe('Deep scan waits for 2 others')
    expect(passSays(pass({ state: 'queued' }))).toBe('Deep scan waits')
    expect(passSays(pass({ state: 'paused' }))).toBe('Deep scan paused, 25% read')
    expect(passSays(pass({ state: 'failed', says: 'It is gone.' }))).toBe('Deep scan failed. It is gone.')
    expect(passSays(pass({ state: 'enough', says: 'Ended by hand.' }))).toBe(
      'Deep scan ended early, 25% read. Ended by hand.',
    )
    expect(passSays(pass({ state: 'done', options: { pass: 'quick' } as PassShape['options'] }))).toBe(
      'Quick pass done, 3 min',
    )
  })

  it('has a rate, and says what holds it up', () => {
    const fast = { ...progress, done: 250e6, of: 1000e6, secondsLeft: 12 }
    expect(rateSays({ ...fast, readSeconds: 100 })).toBe('63 MB/s, the medium is the limit')
    expect(rateSays({ ...fast, readSeconds: 10 })).toBe('63 MB/s, checking files is the limit')
    expect([rateSays({ ...fast, phase: 'joining' }), rateSays({ ...fast, secondsLeft: null })]).toEqual([null, null])
  })

  it('is never further than all, and no way where there is nothing to do', () => {
    expect([
      percentOf({ ...progress, done: 999 }),
      percentOf({ ...progress, done: 1200 }),
      percentOf({ ...progress, of: 0 }),
    ]).toEqual([99, 100, 0])
  })
})

describe('words for an address', () => {
  it('leave out what says nothing', () => {
    expect(String(queryOf({ type: 'photos', only: true, wanted: false, say: '', at: 0, none: undefined }))).toBe(
      'type=photos&only=1&at=0',
    )
  })
})
