import { existsSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, test } from 'vitest'
import type { BenchOverview } from '../../core/bench/bench'
import { LinkItem } from '../../core/bench/item'
import { packBackup, writeZip } from '../../server/archives/write-backup'
import { openShop, type Technician } from '../support/carry'
import { Client } from '../support/client'

/**
 * Every route kind that a device, an account or a backup can serve, carried out on a stand-in from the
 * case to the shelf, at the server's routes. One server for all; each has a case of its own.
 */
let tech: Technician
beforeAll(async () => void (tech = await openShop()))
afterAll(() => tech.server.remove())

const LOST = { from: '2026-11-16T00:00:00Z', to: '2026-11-17T23:00:00Z' }
const phone = (platform: string, more: object = {}) => ({
  'devices.d1': {
    kind: 'phone',
    platform,
    lock: 'unlocked',
    passcode: 'known',
    condition: 'working',
    cable: 'ready',
    bins: { photos: 'on', notes: 'on', files: 'on', messages: 'on' },
    ...more,
  },
})
const computer = (platform: string, bin = 'on') => ({
  'devices.d1': { kind: 'laptop', platform, lock: 'unlocked', condition: 'working', bins: { files: bin } },
})
const copy = (facts: object) => ({ 'copies.c1': { account: 'known', ...facts } })

interface Carried {
  readonly kind: string
  readonly type: string
  readonly how?: string
  readonly when?: { from: string; to: string }
  readonly facts: object
  /** which part of the case is which stand-in; the first is the one that is read */
  readonly on: Record<string, string>
  /** answers and steps that open it */
  readonly open?: readonly [link: string, answer: string, value?: string][]
  /** done between the opening and the listing */
  readonly first?: (code: string) => Promise<void>
  readonly keep: string
  readonly filter?: Record<string, string>
  /** how many are found, and come to the shelf */
  readonly count: number
  /** where some of many are enough to see that they come: which, and how many they are */
  readonly some?: { readonly find: string; readonly count: number }
  /** a further check of a shelf file, beyond equality with the stand-in's own bytes */
  readonly says?: RegExp
  /** lists another link than the first, known only at that point */
  readonly readFrom?: (code: string) => Promise<string>
}

const CARRICK: Carried['open'] = [
  ['carrick-account', 'password', 'plover-egg-5'],
  ['carrick-account', 'second-factor', '330918'],
]
const ASHBY: Carried['open'] = [
  ['ashby-account', 'password', 'bog-cotton-22'],
  ['ashby-account', 'second-factor', '482913'],
]
const GUILD: Carried['open'] = [['guild-account', 'password', 'hexagon-rose']]
const LINDQVIST: Carried['open'] = [
  ['lindqvist-account', 'password', 'saxifrage-9'],
  ['lindqvist-account', 'second-factor', '771204'],
]
const fetched =
  (link: string, keep: string, password = '') =>
  async (code: string) => {
    await tech.ask('POST', `/api/cases/${code}/bench/links/${link}/fetch`, { keep })
    const { fetches } = await tech.until(
      code,
      (bench) => bench.fetches[0]?.state === 'done' && bench.fetches[0].becomes !== null,
    )
    const becomes = fetches[0]!.becomes!
    if (password !== '') await tech.answer(code, becomes, 'password', password)
    return becomes
  }
const agreed = async (code: string) => {
  await tech.set(code, { 'consent.erase.answer': 'given' })
}
const SAFE = (link: string) => async (code: string) => {
  await agreed(code)
  await tech.ask('POST', `/api/cases/${code}/bench/links/${link}/safety-copy`)
}
const unlockedSlate: Carried['open'] = [
  ['pelloon-slate', 'passcode', '140925'],
  ['pelloon-slate', 'trust'],
]
const readRows = (link: string) => async (code: string) => {
  await tech.act(code, link, 'read-apps', {})
  await tech.pass(3)
}
const BYRNE: Carried['open'] = [['byrne-account', 'password', 'woodruff-and-wax']]

const routes: readonly Carried[] = [
  {
    kind: 'device-photo-bin',
    type: 'videos',
    facts: phone('closed-phone'),
    on: { d1: 'korvane-air' },
    open: [
      ['korvane-air', 'passcode', '777123'],
      ['korvane-air', 'trust'],
    ],
    keep: 'photo-bin',
    count: 2,
  },
  {
    kind: 'gallery-bin',
    type: 'photos',
    facts: phone('open-phone'),
    on: { d1: 'korvane-7' },
    open: [['korvane-7', 'passcode', '190677']],
    keep: 'photo-bin',
    count: 150,
  },
  {
    kind: 'notes-bin',
    type: 'notes',
    facts: phone('open-phone'),
    on: { d1: 'korvane-3' },
    keep: 'notes-bin',
    count: 5,
    says: /^# .+\n\n\*2026-.+\n\n[\s\S]+Look in again on Friday/,
  },
  {
    kind: 'device-file-bin',
    type: 'documents',
    facts: phone('open-phone'),
    on: { d1: 'korvane-3' },
    keep: 'file-bin',
    count: 1,
    says: /Ferry: 8:05/,
  },
  {
    kind: 'message-bin',
    type: 'messages',
    facts: phone('open-phone'),
    on: { d1: 'korvane-3' },
    keep: 'message-bin',
    count: 12,
    says: /"kind": "message"[\s\S]*"text": ".+\(\d+\)"/,
  },
  {
    kind: 'mail-account-bin',
    type: 'mail',
    facts: { ...phone('open-phone'), ...copy({ kind: 'mail-account' }) },
    on: { c1: 'guild-account' },
    open: GUILD,
    keep: 'mail-bin',
    count: 2,
    says: /^From: treasurer/,
  },
  {
    kind: 'computer-bin',
    type: 'spreadsheets',
    facts: computer('desktop-pc'),
    on: { d1: 'harrowby-book' },
    keep: 'bin',
    count: 1,
    says: /quilt;17/,
  },
  {
    kind: 'cloud-library-bin',
    type: 'photos',
    facts: { ...phone('open-phone'), ...copy({ kind: 'cloud-library', sync: 'on' }) },
    on: { c1: 'ashby-account' },
    open: ASHBY,
    keep: 'library-bin',
    count: 100,
  },
  {
    kind: 'cloud-library-kept',
    type: 'videos',
    how: 'sync-switched',
    facts: { ...phone('closed-phone'), ...copy({ kind: 'cloud-library', sync: 'off', size: 'full' }) },
    on: { c1: 'carrick-account' },
    open: CARRICK,
    keep: 'library',
    count: 8,
  },
  {
    kind: 'cloud-library-reduced',
    type: 'photos',
    how: 'sync-switched',
    facts: { ...phone('closed-phone'), ...copy({ kind: 'cloud-library', sync: 'off', size: 'reduced' }) },
    on: { c1: 'carrick-account' },
    open: CARRICK,
    keep: 'library',
    count: 60,
  },
  {
    kind: 'cloud-drive-bin',
    type: 'spreadsheets',
    facts: { ...computer('desktop-pc'), ...copy({ kind: 'cloud-drive', sync: 'on' }) },
    on: { c1: 'ashby-account' },
    open: ASHBY,
    keep: 'drive-bin',
    count: 1,
    says: /3;2\.4/,
  },
  {
    kind: 'cloud-drive-kept',
    type: 'documents',
    facts: { ...computer('desktop-pc'), ...copy({ kind: 'cloud-drive', sync: 'off' }) },
    on: { c1: 'ashby-account' },
    open: ASHBY,
    keep: 'drive',
    count: 2,
  },
  {
    kind: 'drive-versions',
    type: 'documents',
    how: 'saved-over',
    facts: { ...computer('desktop-pc'), ...copy({ kind: 'cloud-drive', sync: 'on' }) },
    on: { c1: 'ashby-account' },
    open: ASHBY,
    keep: 'drive-versions',
    count: 3,
  },
  {
    kind: 'cloud-autosave',
    type: 'spreadsheets',
    how: 'crashed-before-saving',
    facts: { ...computer('desktop-pc'), ...copy({ kind: 'cloud-drive', sync: 'on' }) },
    on: { c1: 'guild-account' },
    open: GUILD,
    keep: 'autosave',
    count: 1,
  },
  {
    kind: 'sim-contacts',
    type: 'contacts',
    facts: { ...phone('open-phone'), ...copy({ kind: 'sim-card' }) },
    on: { c1: 'ostrel-mini' },
    open: [['ostrel-mini', 'passcode', '3317']],
    keep: 'sim',
    count: 24,
    says: /^BEGIN:VCARD[\s\S]+TEL:/,
  },
  {
    kind: 'earlier-versions',
    type: 'spreadsheets',
    how: 'saved-over',
    facts: {
      ...computer('desktop-pc'),
      ...copy({ kind: 'earlier-versions', taken: { from: '2026-11-15T21:00:00Z', to: '2026-11-15T21:10:00Z' } }),
    },
    on: { c1: 'harrowby-book' },
    keep: 'versions.last-night',
    count: 1,
  },
  {
    kind: 'automatic-recovery',
    type: 'documents',
    how: 'crashed-before-saving',
    facts: computer('maker-desktop'),
    on: { d1: 'pelloon-leaf' },
    open: [['pelloon-leaf', 'password', 'fen-skater']],
    keep: 'recovery',
    count: 1,
  },
  {
    kind: 'look-around',
    type: 'spreadsheets',
    facts: { ...computer('desktop-pc'), 'wanted.w1.names': 'guild accounts' },
    on: { d1: 'harrowby-book' },
    keep: 'files',
    filter: { find: 'copy' },
    count: 1,
  },
  {
    kind: 'file-history',
    type: 'spreadsheets',
    how: 'saved-over',
    facts: {
      ...computer('desktop-pc'),
      ...copy({ kind: 'file-history', taken: { from: '2026-11-14T17:00:00Z', to: '2026-11-14T18:00:00Z' } }),
    },
    on: { c1: 'canal-server' },
    open: [['canal-server', 'password', 'windlass']],
    keep: 'history',
    count: 2,
    says: /Heron;14/,
  },
  {
    kind: 'snapshot-timeline',
    type: 'documents',
    how: 'saved-over',
    when: { from: '2026-11-24T06:00:00Z', to: '2026-11-24T07:00:00Z' },
    facts: {
      ...computer('maker-desktop'),
      ...copy({ kind: 'snapshot-timeline', taken: { from: '2026-11-24T04:30:00Z', to: '2026-11-24T04:45:00Z' } }),
    },
    on: { c1: 'pelloon-leaf' },
    open: [['pelloon-leaf', 'password', 'fen-skater']],
    keep: 'snapshot.6',
    count: 1,
  },
  {
    kind: 'system-image',
    type: 'audio',
    facts: {
      ...computer('desktop-pc'),
      ...copy({ kind: 'system-image', taken: { from: '2026-11-06T01:00:00Z', to: '2026-11-06T01:30:00Z' } }),
    },
    on: { c1: 'canal-server' },
    open: [['canal-server', 'password', 'windlass']],
    keep: 'files',
    count: 3,
    readFrom: fetched('canal-server', 'backup.desk-1-image'),
  },
  {
    kind: 'backup-selective',
    type: 'photos',
    facts: {
      ...phone('open-phone'),
      ...copy({
        kind: 'computer-backup',
        encrypted: 'no',
        selective: 'yes',
        taken: { from: '2026-11-02T20:00:00Z', to: '2026-11-02T20:30:00Z' },
      }),
    },
    on: { c1: 'field-hut-laptop' },
    open: [['field-hut-laptop', 'wake']],
    keep: 'library',
    count: 128,
    readFrom: fetched('field-hut-laptop', 'backup.field-hut'),
  },
  {
    kind: 'trusted-computer-backup',
    type: 'messages',
    how: 'locked-out',
    facts: {
      ...phone('closed-phone', { lock: 'locked', passcode: 'not-known' }),
      ...copy({
        kind: 'trusted-computer',
        encrypted: 'yes',
        password: 'thought-known',
        taken: { from: '2026-08-21T18:00:00Z', to: '2026-08-21T19:00:00Z' },
      }),
    },
    on: { c1: 'study-computer' },
    open: [['study-computer', 'password', 'gillyflower']],
    keep: 'apps',
    filter: { type: 'messages', presence: 'present' },
    count: 200,
    says: /"text": ".+\(\d+\)"/,
    readFrom: fetched('study-computer', 'backup.study', 'larkspur gate 1961'),
  },
  {
    kind: 'cloud-backup-selective',
    type: 'notes',
    facts: {
      ...phone('closed-phone'),
      ...copy({
        kind: 'cloud-backup',
        selective: 'yes',
        taken: { from: '2026-11-05T02:00:00Z', to: '2026-11-05T03:00:00Z' },
      }),
    },
    on: { c1: 'byrne-account' },
    open: BYRNE,
    keep: 'apps',
    filter: { type: 'notes', presence: 'present' },
    count: 36,
    says: /^# /,
    readFrom: fetched('byrne-account', 'backup.before'),
  },
  {
    kind: 'phone-rows',
    type: 'messages',
    facts: phone('closed-phone'),
    on: { d1: 'ostrel-fold', x1: 'navigation-office' },
    open: [['ostrel-fold', 'trust', 'navigation-office']],
    first: readRows('ostrel-fold'),
    keep: 'apps',
    filter: { type: 'messages', presence: 'deleted' },
    // As many as the file still holds: deleting moves rows together, over others that were deleted before.
    count: 84,
    says: /"text": ".+\(\d+\)"/,
  },
  {
    kind: 'contacts-turned-back',
    type: 'contacts',
    facts: { ...phone('open-phone'), ...copy({ kind: 'contact-archive' }) },
    on: { c1: 'lindqvist-account' },
    open: LINDQVIST,
    first: async (code) => {
      await SAFE('lindqvist-account')(code)
      await tech.act(code, 'lindqvist-account', 'turn-back', { from: 'lindqvist-account/contacts.27' })
      await tech.pass(3)
    },
    keep: 'contacts',
    some: { find: 'Alma', count: 21 },
    count: 420,
    says: /^BEGIN:VCARD[\s\S]+FN:/,
  },
  {
    kind: 'contacts-merged-in',
    type: 'contacts',
    how: 'sync-switched',
    facts: { ...phone('open-phone'), ...copy({ kind: 'contact-archive' }) },
    on: { d1: 'ostrel-mini', c1: 'lindqvist-account' },
    open: [['ostrel-mini', 'passcode', '3317'], ['ostrel-mini', 'debugging'], ...LINDQVIST],
    first: async (code) => {
      await tech.act(code, 'ostrel-mini', 'merge-in', { from: 'lindqvist-account/contacts.28' })
      await tech.pass(2)
      await readRows('ostrel-mini')(code)
    },
    keep: 'apps',
    filter: { type: 'contacts', presence: 'present' },
    some: { find: 'Alma', count: 22 },
    count: 430,
    says: /^BEGIN:VCARD/,
  },
  {
    kind: 'bookmark-archive',
    type: 'bookmarks',
    facts: {
      ...computer('unix-desktop'),
      ...copy({ kind: 'bookmark-archive', taken: { from: '2026-11-15T08:00:00Z', to: '2026-11-15T09:00:00Z' } }),
    },
    on: { c1: 'library-van' },
    first: async (code) => {
      await SAFE('library-van')(code)
      await tech.act(code, 'library-van', 'turn-back', { from: 'library-van/bookmarks.9' })
      await tech.pass(1)
    },
    keep: 'bookmarks',
    some: { find: 'https://shelf-33', count: 11 },
    count: 340,
    says: /<A HREF="https:\/\/shelf-\d+\.example/,
  },
  {
    kind: 'sync-switched-on-again',
    type: 'photos',
    how: 'sync-switched',
    facts: { ...phone('closed-phone'), ...copy({ kind: 'cloud-library', sync: 'off' }) },
    on: { d1: 'korvane-air', c1: 'carrick-account' },
    open: [
      ['korvane-air', 'passcode', '777123'],
      ['korvane-air', 'trust'],
      ['korvane-air', 'charger', 'on'],
      ['korvane-air', 'network', 'on'],
    ],
    first: async (code) => {
      await tech.act(code, 'korvane-air', 'sync-on', {})
      await tech.pass(1)
      const half = (await tech.bench(code)).links.find((one) => one.id === 'korvane-air')!.tasks.at(-1)!
      expect(half.state).toBe('running')
      expect(half.done).toBeGreaterThan(5)
      await tech.pass(10)
    },
    keep: 'library',
    filter: { type: 'photos' },
    count: 70,
  },
  {
    kind: 'cloud-backup-full',
    type: 'notes',
    facts: {
      ...phone('closed-phone'),
      ...copy({ kind: 'cloud-backup', taken: { from: '2026-11-05T02:00:00Z', to: '2026-11-05T03:00:00Z' } }),
    },
    on: { d1: 'pelloon-slate', c1: 'byrne-account' },
    open: [...unlockedSlate, ['pelloon-slate', 'charger', 'on'], ...BYRNE],
    first: async (code) => {
      await readRows('pelloon-slate')(code)
      await SAFE('pelloon-slate')(code)
      await tech.answer(code, 'pelloon-slate', 'network', 'on')
      await readRows('pelloon-slate')(code)
      await tech.act(code, 'pelloon-slate', 'restore', { from: 'byrne-account/backup.before' })
      await tech.pass(15)
      await readRows('pelloon-slate')(code)
    },
    keep: 'apps',
    filter: { type: 'notes', presence: 'present' },
    count: 36,
    says: /^# /,
  },
  {
    kind: 'computer-backup-full',
    type: 'photos',
    facts: {
      ...phone('open-phone'),
      ...copy({
        kind: 'computer-backup',
        encrypted: 'no',
        taken: { from: '2026-11-02T20:00:00Z', to: '2026-11-02T20:30:00Z' },
      }),
    },
    on: { d1: 'korvane-7', c1: 'field-hut-laptop' },
    open: [
      ['korvane-7', 'passcode', '190677'],
      ['korvane-7', 'debugging'],
      ['korvane-7', 'charger', 'on'],
      ['field-hut-laptop', 'wake'],
    ],
    first: async (code) => {
      await readRows('korvane-7')(code)
      await SAFE('korvane-7')(code)
      await tech.act(code, 'korvane-7', 'restore', { from: 'field-hut-laptop/backup.field-hut' })
      await tech.pass(15)
    },
    keep: 'library',
    count: 128,
  },
  {
    kind: 'first-set-up',
    type: 'notes',
    how: 'factory-reset',
    facts: {
      ...phone('closed-phone'),
      ...copy({ kind: 'cloud-backup', taken: { from: '2026-11-05T02:00:00Z', to: '2026-11-05T03:00:00Z' } }),
    },
    on: { d1: 'pelloon-slate', c1: 'byrne-account' },
    open: [...unlockedSlate, ['pelloon-slate', 'charger', 'on'], ...BYRNE],
    first: async (code) => {
      await readRows('pelloon-slate')(code)
      await SAFE('pelloon-slate')(code)
      await tech.act(code, 'pelloon-slate', 'erase', {})
      await tech.pass(6)
      const erased = (await tech.bench(code)).links.find((one) => one.id === 'pelloon-slate')!
      expect(erased).toMatchObject({ state: 'first-set-up', keeps: [] })
      await tech.answer(code, 'pelloon-slate', 'network', 'on')
      await tech.act(code, 'pelloon-slate', 'restore', { from: 'byrne-account/backup.before' })
      await tech.pass(15)
      await readRows('pelloon-slate')(code)
    },
    keep: 'apps',
    filter: { type: 'notes', presence: 'present' },
    count: 36,
    says: /^# /,
  },
  {
    kind: 'social-export',
    type: 'documents',
    facts: { ...phone('open-phone'), ...copy({ kind: 'social-account' }), 'wanted.w2': { type: 'photos' } },
    on: { c1: 'guild-account' },
    open: GUILD,
    first: async (code) => {
      await tech.act(code, 'guild-account', 'ask-export', {})
      expect((await tech.bench(code)).links[0]!.keeps.some((keep) => keep.kind === 'export')).toBe(false)
      await tech.pass(27 * 60)
      for (const [link, answer, value] of GUILD!) await tech.answer(code, link, answer, value)
    },
    keep: 'export.t1',
    count: 2,
    says: /Saturday|Thank you/,
  },
]

test('the routes here are twenty-four kinds or more', () => {
  expect(new Set([...routes, ...scans].map((route) => route.kind)).size).toBeGreaterThanOrEqual(24)
})

for (const route of routes)
  test(`${route.kind} is carried out from the case to the shelf`, async () => {
    const code = await tech.log({
      'client.name': `For ${route.kind}`,
      'wanted.w1': { type: route.type },
      'loss.how': route.how ?? 'deleted-in-bulk',
      'loss.when': route.when ?? LOST,
      ...route.facts,
    })
    for (const [part, link] of Object.entries(route.on)) await tech.attach(code, part, link)
    for (const [link, answer, value] of route.open ?? []) await tech.answer(code, link, answer, value)
    await route.first?.(code)
    if (route.kind.match(/full|set-up/)) await agreed(code)
    const run = await tech.begin(code, `${route.kind}:${route.on.c1 ? 'c1' : 'd1'}`)
    const link = (await route.readFrom?.(code)) ?? Object.values(route.on)[0]!
    const listing = await tech.list(code, link, route.keep)
    const filter = route.filter ?? { type: route.type }
    const { counts } = await tech.finds(code, listing, new URLSearchParams(filter).toString())
    expect(counts!.matching).toBe(route.count)

    const shelf = await tech.toShelf(code, listing, route.some ? { ...filter, find: route.some.find } : filter)
    expect(shelf).toHaveLength(route.some?.count ?? route.count)
    for (const item of shelf) {
      if (route.says) expect(item.bytes.toString('utf8')).toMatch(route.says)
      // Files that are not records equal, byte for byte, what the stand-in holds under that checksum.
      else {
        const kept = join(tech.server.data, 'stand-ins', item.sha256)
        expect(existsSync(kept)).toBe(true)
        expect(readFileSync(kept).equals(item.bytes)).toBe(true)
      }
    }
    const stored = await tech.ask<{ case: { runs: { id: string; shelf: object[] }[] } }>('GET', `/api/cases/${code}`)
    const counted = stored.case.runs.find((one) => one.id === run)!.shelf
    expect(counted).toContainEqual(expect.objectContaining({ wanted: 'w1' }))
    await tech.end(code, run, [{ wanted: 'w1', back: route.count, whole: route.count }])
  })

/** Routes that read a medium: the stand-in, the scan, and how many items of the wanted kind reach the shelf. */
const scans: readonly {
  kind: string
  device: object
  copy?: object
  how: string
  link: string
  isDeep: boolean
  type: string
  least: number
}[] = [
  {
    kind: 'medium-quick-pass',
    device: { kind: 'camera' },
    how: 'deleted-in-bulk',
    link: 'medium-survey-card',
    isDeep: false,
    type: 'photos',
    least: 11,
  },
  {
    kind: 'medium-deep-scan',
    device: { kind: 'recorder' },
    how: 'deleted-in-bulk',
    link: 'medium-recorder-card',
    isDeep: true,
    type: 'photos',
    least: 2,
  },
  {
    kind: 'stick-quick-pass',
    device: { kind: 'stick' },
    how: 'deleted-singly',
    link: 'medium-pattern-stick',
    isDeep: false,
    type: 'photos',
    least: 2,
  },
  {
    kind: 'stick-deep-scan',
    device: { kind: 'stick' },
    how: 'deleted-in-bulk',
    link: 'medium-pattern-stick',
    isDeep: true,
    type: 'audio',
    least: 4,
  },
  {
    kind: 'formatted-medium-scan',
    device: { kind: 'stick' },
    how: 'formatted',
    link: 'medium-pattern-stick',
    isDeep: true,
    type: 'documents',
    least: 4,
  },
  {
    kind: 'disk-quick-pass',
    device: { kind: 'external-disk' },
    how: 'deleted-in-bulk',
    link: 'medium-records-server',
    isDeep: false,
    type: 'documents',
    least: 4,
  },
  {
    kind: 'disk-deep-scan',
    device: { kind: 'external-disk' },
    how: 'deleted-in-bulk',
    link: 'medium-records-server',
    isDeep: true,
    type: 'videos',
    least: 6,
  },
  {
    kind: 'inner-disk-quick-pass',
    device: { kind: 'laptop' },
    how: 'deleted-in-bulk',
    link: 'medium-quay-laptop',
    isDeep: false,
    type: 'photos',
    least: 5,
  },
  {
    kind: 'inner-storage-scan',
    device: { kind: 'laptop' },
    how: 'deleted-in-bulk',
    link: 'medium-quay-laptop',
    isDeep: true,
    type: 'photos',
    least: 6,
  },
  {
    kind: 'image-quick-pass',
    device: { kind: 'camera' },
    copy: { kind: 'disk-image' },
    how: 'deleted-in-bulk',
    link: 'medium-survey-card',
    isDeep: false,
    type: 'videos',
    least: 1,
  },
  {
    kind: 'image-deep-scan',
    device: { kind: 'camera' },
    copy: { kind: 'disk-image' },
    how: 'deleted-in-bulk',
    link: 'medium-survey-card',
    isDeep: true,
    type: 'photos',
    least: 12,
  },
]

for (const scan of scans)
  test(`${scan.kind} is carried out from the case to the shelf`, async () => {
    const code = await tech.log({
      'client.name': `For ${scan.kind}`,
      'wanted.w1': { type: scan.type },
      'loss.how': scan.how,
      'loss.when': LOST,
      ...(scan.how === 'formatted' ? { 'loss.format': 'quick' } : {}),
      'devices.d1': { lock: 'none', condition: 'working', storage: { encryption: 'none' }, ...scan.device },
      ...(scan.copy ? copy(scan.copy) : {}),
    })
    const part = scan.copy ? 'c1' : 'd1'
    await tech.attach(code, part, scan.link)
    const run = await tech.begin(code, `${scan.kind}:${part}`)
    const { listing, pass } = await tech.ask<{ listing: number; pass: number }>(
      'POST',
      `/api/cases/${code}/bench/links/${scan.link}/pass`,
      { pass: scan.isDeep ? 'both' : 'quick', types: [scan.type] },
    )
    await tech.until(code, ({ passes }) => passes.find((one) => one.id === pass)?.state === 'done')
    const filter = { type: scan.type, presence: 'deleted', whole: 'whole' }
    const { counts } = await tech.finds(code, listing, new URLSearchParams(filter).toString())
    expect(counts!.matching).toBeGreaterThanOrEqual(scan.least)
    const shelf = await tech.toShelf(code, listing, filter)
    expect(shelf).toHaveLength(counts!.matching)
    // Every file equals the bytes at its extents on the medium.
    const image = readFileSync(join(tech.server.data, 'stand-ins/media', `${scan.link}.img`))
    for (const { bytes, evidence } of shelf) {
      expect(evidence.checks.length).toBeGreaterThan(0)
      const held = Buffer.concat(evidence.extents.map(([at, length]) => image.subarray(at, at + length)))
      expect(bytes.equals(held)).toBe(true)
    }
    const stored = await tech.ask<{ case: { runs: { id: string; shelf: { verified: number }[] }[] } }>(
      'GET',
      `/api/cases/${code}`,
    )
    const counted = stored.case.runs.find((one) => one.id === run)!.shelf
    expect(counted[0]!.verified).toBe(shelf.length)
    await tech.end(code, run, [{ wanted: 'w1', back: shelf.length, whole: shelf.length }])
  })

test('a restore point holds no documents, and restoring it recovers none', async () => {
  const code = await tech.log({
    'wanted.w1': { type: 'documents' },
    'loss.how': 'deleted-singly',
    'loss.when': LOST,
    ...computer('desktop-pc'),
    ...copy({ kind: 'restore-point' }),
  })
  const bench = await tech.attach(code, 'c1', 'harrowby-book')
  expect(bench.links[0]!.keeps.find((keep) => keep.kind === 'restore-point')).toMatchObject({ count: 0 })
  const offer = await tech.compare(code, 'harrowby-book', 'restore', { from: 'harrowby-book/restore-point.1' })
  expect(offer.offer.effects).toMatchObject({ back: [], erases: false })
})

test('a backup in a folder that the owner names is found on its own, and described before it is opened', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'lantern-drawer-'))
  const owner = new Client(tech.server.address)
  try {
    const note = new TextEncoder().encode('Bring the blue ledger.')
    const source = {
      device: { id: 'attic-slate', title: 'Attic Slate', platform: 'open-phone' },
      account: null,
      taken: '2026-10-30T20:15:00Z',
      keepsBins: false,
      keeps: [
        {
          id: 'files',
          kind: 'files' as const,
          title: 'Files',
          types: ['documents' as const],
          periodDays: null,
          isOn: true,
        },
      ],
      items: [
        {
          keep: 'files',
          item: LinkItem.parse({ id: 'i1', name: 'note.txt', type: 'documents', bytes: note.length }),
          bytes: async () => note,
        },
      ],
    }
    await writeZip(join(folder, 'attic.zip'), packBackup(source, 'oat and barley'))
    writeFileSync(join(folder, 'shopping.txt'), 'no archive')
    await owner.signIn('ottilie')
    const refused = await owner.put('/api/bench/folders', { data: { folders: ['drawer'] } })
    expect(refused.status).toBe(400)
    expect((await owner.put('/api/bench/folders', { data: { folders: [folder] } })).ok).toBe(true)

    const { links } = await tech.ask<BenchOverview>('GET', '/api/bench')
    const found = links.filter(({ title }) => title.includes('Attic Slate'))
    expect(found).toHaveLength(1)
    expect(found[0]!.archive).toMatchObject({
      taken: '2026-10-30T20:15:00Z',
      types: ['documents'],
      isEncrypted: true,
      bytes: statSync(join(folder, 'attic.zip')).size,
    })
    expect(links.some(({ title }) => title.includes('shopping'))).toBe(false)

    const code = await tech.log({ 'wanted.w1': { type: 'documents' }, 'copies.c1': { kind: 'computer-backup' } })
    const link = found[0]!.id
    await tech.attach(code, 'c1', link)
    await expect(tech.answer(code, link, 'password', 'oats')).rejects.toThrow('password')
    await tech.answer(code, link, 'password', 'oat and barley')
    const listing = await tech.list(code, link, 'files')
    const [file] = await tech.toShelf(code, listing, {})
    expect(file!.bytes.toString()).toBe('Bring the blue ledger.')
  } finally {
    rmSync(folder, { recursive: true })
  }
})
