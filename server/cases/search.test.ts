import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { defaultPlaybook } from '../../core/playbook/playbook'
import { markedCase, markOf } from '../../core/testing/marked-case'
import { CASE_TEXTS } from '../../core/cases/facts/texts'
import { openDatabase, type Database } from '../db/open'
import { cases, settings, shelfItems } from '../db/tables'
import { fillSearchIndex } from '../search/index-cases'
import { noteHappening } from './rows'
import { search } from './search'
import { changeFacts } from './writing/facts'
import { importCase } from './writing/log'

const now = Date.UTC(2026, 10, 24, 10, 42)
const jory = { by: 'Jory', now }
const playbook = defaultPlaybook({ codePrefix: 'RL' })
let folder: string
let database: Database
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'lantern-'))
  database = openDatabase(folder, resolve(import.meta.dirname, '../db/migrations'))
  importCase(database, markedCase(), playbook, jory)
})
afterEach(() => {
  database.$client.close()
  rmSync(folder, { recursive: true })
})

const find = (typed: string, role: 'owner' | 'technician' | 'counter' = 'owner') =>
  search(database, typed, role, { zone: 'UTC', currency: 'GBP', now })
const wheres = (typed: string, role?: 'counter') =>
  find(typed, role).cases.flatMap(({ matches }) => matches.map(({ where }) => where))

const onShelf = (name: string) =>
  database
    .insert(shelfItems)
    .values({
      caseId: 1,
      link: 'x',
      item: name,
      name,
      type: 'photos',
      path: `photos/${name}`,
      bytes: 1,
      whole: 'intact',
      state: 'verified',
      body: '{}',
    })
    .run()

describe('a search', () => {
  it('finds every text of a case, and says where it is', () => {
    for (const { path, words } of CASE_TEXTS) expect(wheres(markOf(path)), path).toContain(words)
  })

  it('finds file names for those who work at the bench, and what the history says', () => {
    onShelf('IMG_7731 weir.jpg')
    noteHappening(
      database,
      'RL-0001',
      { kind: 'bench', fact: 'x', was: null, is: { says: 'listed the gallery' } },
      jory,
    )
    expect([wheres('img 77'), wheres('img 77', 'counter')]).toEqual([['file on the shelf'], []])
    expect([wheres('gallery'), wheres('gallery', 'counter')]).toEqual([['history'], []])
    database.update(shelfItems).set({ name: 'other.jpg', path: 'other.jpg' }).run()
    expect([wheres('weir'), wheres('other')]).toEqual([[], ['file on the shelf']])
    database.delete(shelfItems).run()
    expect(wheres('other')).toEqual([])
  })

  it('finds a client by any part of name or number, and what was replaced only in the history', () => {
    changeFacts(database, 'RL-0001', 1, [{ fact: 'client.name', is: 'Wilfreda Ashby' }], jory)
    for (const typed of ['wilf', 'shby', 'ashby wil', '1632 90', `+44 ${markOf('client.phone').slice(1)}`])
      expect(
        find(typed).clients.map(({ name, cases }) => [name, cases]),
        typed,
      ).toEqual([['Wilfreda Ashby', 1]])
    expect(wheres(markOf('client.name'))).toEqual(['history'])
    expect(find('1').cases).toEqual([])
  })

  it('shows a stopped case to owners only', () => {
    database.update(cases).set({ isStopped: true }).run()
    const mark = markOf('client.name')
    expect([find(mark).cases.length, find(mark).clients.length]).toEqual([1, 1])
    expect(find(mark, 'technician')).toEqual({ clients: [], cases: [], hasMore: false })
  })

  it('has its index filled again for a database from before it', () => {
    database.$client.exec(
      "delete from search_cases; delete from search_history; delete from settings where key = 'search-index'",
    )
    expect(wheres('imported')).toEqual([])
    fillSearchIndex(database)
    expect(wheres('imported')).toEqual(['history'])
    expect(wheres(markOf('runs.*.note'))).toEqual(['result of a run'])
    expect(database.select().from(settings).all()).toContainEqual({ key: 'search-index', value: '2' })
  })
})
