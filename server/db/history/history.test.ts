import { cpSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import Sqlite from 'better-sqlite3'
import { afterAll, afterEach, beforeEach, describe, expect, it } from 'vitest'
import { CHAIN_START, chainDigest, printedHead } from '../../../core/history/chain'
import { defaultPlaybook } from '../../../core/playbook/playbook'
import { verifyCommand } from '../../../disk/verify-shop'
import { runLantern } from '../../../cli/program'
import { chainEntries } from '../../../disk/shop-history'
import { makeShopKeys, readShopKeys } from '../../../disk/shop-key'
import { changeFacts } from '../../cases/writing/facts'
import { logCase } from '../../cases/writing/log'
import { noteHappening, readStored } from '../../cases/rows'
import { inspectShop, openDatabase, type Database } from '../open'
import { historyHead, historySince } from './entries'
import { destroyCaseKey } from './keys'

const folder = mkdtempSync(join(tmpdir(), 'lantern-history-'))
afterAll(() => rmSync(folder, { recursive: true }))
const migrations = resolve('server/db/migrations')
const now = Date.UTC(2026, 10, 24, 10, 42)
const jory = { by: 'Jory', now }
const NAME = 'Wilfreda Ashby'
const story = [
  { fact: 'client.name', is: NAME },
  { fact: 'wanted.w1', is: { type: 'photos', count: 200 } },
]

let shop: string
let database: Database
let count = 0
beforeEach(() => {
  shop = join(folder, `shop-${++count}`)
  database = openDatabase(shop, migrations)
  const { code } = logCase(database, story, defaultPlaybook(), jory).stored.case
  noteHappening(database, code, { kind: 'bench', fact: 'phone', was: null, is: { says: 'previewed “weir.jpg”' } }, jory)
  logCase(database, [{ fact: 'client.name', is: 'Ennis Carrick' }], defaultPlaybook(), jory)
})
afterEach(() => database.$client.close())

/** Changes the database past the triggers, as somebody with the file could. */
function forge(sql: string, work?: (client: Sqlite.Database) => void): void {
  const client = new Sqlite(join(shop, 'lantern.sqlite'))
  client.pragma('foreign_keys = OFF')
  client.exec(`drop trigger history_is_not_changed; drop trigger history_is_not_removed; ${sql}`)
  work?.(client)
  client.close()
}
const verified = (head?: string) => verifyCommand(shop, { head })
const head = () => printedHead(historyHead(database))

describe('the history of a shop', () => {
  it('fits, also while a server uses it, and to a head that was printed earlier', () => {
    const early = head()
    changeFacts(database, 'RL-0001', 1, [{ fact: 'loss.how', is: 'deleted-in-bulk' }], jory)
    expect(verified()).toEqual({ fits: `7 entries fit. Head: ${head()}` })
    expect(verified(early)).toHaveProperty('fits')
  })

  it('holds nothing about the client outside of what is encrypted', () => {
    const rows = database.$client.prepare('select * from history').all()
    expect(rows).toHaveLength(6)
    const text = rows
      .map((row) =>
        Object.values(row as object)
          .map((one) => (Buffer.isBuffer(one) ? one.toString('latin1') : String(one)))
          .join(' '),
      )
      .join('\n')
    for (const secret of [NAME, 'Wilfreda', 'Carrick', 'weir.jpg', 'client.name', 'photos', 'phone'])
      expect(text).not.toContain(secret)
    expect(JSON.stringify(historySince(database, 1, 0))).toContain('weir.jpg')
  })

  it('is only ever added to: the database itself refuses to change or remove an entry', () => {
    for (const sql of [
      "update history set by = 'nobody' where id = 1",
      'delete from history where id = 1',
      'delete from history',
    ])
      expect(() => database.$client.exec(sql)).toThrow('only ever added to')
    expect(verified()).toHaveProperty('fits')
  })

  it('that was changed past the triggers names the first entry that does not fit', () => {
    forge("update history set by = 'Bram' where id = 4")
    expect(verified()).toMatchObject({ broken: expect.stringMatching(/^Entry 4 \(RL-0001, 2026-11-24.*changed/) })
  })

  it('whose encrypted content was exchanged for that of another entry does not fit', () => {
    forge(
      'update history set sealed = (select sealed from history where id = 2), content = (select content from history where id = 2) where id = 3',
    )
    expect(verified()).toMatchObject({ broken: expect.stringContaining('Entry 3') })
    expect(historySince(database, 1, 0)[2]).toMatchObject({ isWiped: true })
  })

  it('from which an entry was removed names the one behind it', () => {
    forge('delete from history where id = 2')
    expect(verified()).toMatchObject({ broken: expect.stringContaining('Entry 3') })
  })

  it('whose end was cut is found without a head, and with one also where the count was forged', () => {
    const printed = head()
    forge('delete from history where id > 4')
    expect(verified()).toMatchObject({ broken: expect.stringContaining('6 entries were written, 4 are there') })
    forgeAgain("update sqlite_sequence set seq = 4 where name = 'history'")
    expect(verified()).toHaveProperty('fits')
    expect(verified(printed)).toMatchObject({ broken: expect.stringContaining('does not contain the head') })
  })

  it('that was rebuilt without the key is found at its first entry', () => {
    forge('', (client) => {
      let before = CHAIN_START
      for (const entry of [...chainEntries(client)]) {
        before = chainDigest(Buffer.alloc(32, 1), before, { ...entry, by: 'Bram' })
        client.prepare("update history set by = 'Bram', digest = ? where id = ?").run(before, entry.id)
      }
    })
    expect(verified()).toMatchObject({ broken: expect.stringContaining('Entry 1') })
    database.$client.close()
    expect(() => inspectShop(shop, migrations)).toThrow('does not belong to this database')
  })

  it('loses its content with the key of the case, and the chain still fits', () => {
    destroyCaseKey(database, 1)
    expect(verified()).toEqual({ fits: `6 entries fit. Head: ${head()}` })
    expect(historySince(database, 1, 0)).toMatchObject(
      Array.from({ length: 4 }, () => ({ by: 'Jory', fact: '', was: null, is: null, isWiped: true })),
    )
    expect(historySince(database, 2, 0)[1]).toMatchObject({ fact: 'client.name', is: 'Ennis Carrick', isWiped: false })
    // What is written about the case afterwards can be read again.
    noteHappening(database, 'RL-0001', { kind: 'moved', fact: 'state', was: null, is: { name: 'closed' } }, jory)
    expect(historySince(database, 1, 0).at(-1)).toMatchObject({ isWiped: false, fact: 'state' })
    expect(verified()).toHaveProperty('fits')
  })

  it('has its key complete or not at all: half of one is none, and is never taken for a damaged one', () => {
    const path = join(folder, `key-${++count}`)
    mkdirSync(path)
    writeFileSync(join(path, 'shop.key.new'), 'half of a k')
    expect(readShopKeys(path)).toBeNull()
    const made = makeShopKeys(path)
    expect(readShopKeys(path)).toEqual(made)
    expect(readdirSync(path)).toEqual(['shop.key'])
  })

  it('does not open without its key, or with another one, and is left as it is', () => {
    database.$client.close()
    const key = join(shop, 'shop.key')
    const good = readFileSync(key, 'utf8')
    const before = readFileSync(join(shop, 'lantern.sqlite'))
    rmSync(key)
    expect(() => inspectShop(shop, migrations)).toThrow(/key of the history, shop.key, is missing/)
    expect(verified()).toMatchObject({ faults: expect.stringContaining('is missing') })
    writeFileSync(key, 'not a key')
    expect(() => inspectShop(shop, migrations)).toThrow('is damaged')
    expect(verified()).toMatchObject({ faults: expect.stringContaining('is damaged') })
    writeFileSync(key, `${'0'.repeat(64)}\n`)
    expect(() => inspectShop(shop, migrations)).toThrow('does not belong to this database')
    expect(readFileSync(join(shop, 'lantern.sqlite'))).toEqual(before)
    writeFileSync(key, good)
    inspectShop(shop, migrations)
    expect(verified()).toHaveProperty('fits')
  })

  it('is written with its case or not at all', () => {
    const before = historyHead(database)
    const { version } = readStored(database, 'RL-0001')
    const half = [{ fact: 'loss.how', is: 'deleted-in-bulk' }]
    expect(() =>
      database.transaction(() => {
        changeFacts(database, 'RL-0001', version, half, jory)
        throw new Error('and then the power went')
      }),
    ).toThrow('power')
    expect([historyHead(database), readStored(database, 'RL-0001').version]).toEqual([before, version])
    expect(verified()).toHaveProperty('fits')
  })
})

/** A further change, after the triggers are gone. */
function forgeAgain(sql: string): void {
  const client = new Sqlite(join(shop, 'lantern.sqlite'))
  client.exec(sql)
  client.close()
}

describe('a history from before there was a chain', () => {
  function earlierShop(): string {
    const first = join(folder, `first-${++count}`)
    cpSync(migrations, first, { recursive: true })
    const journal = join(first, 'meta/_journal.json')
    const all = JSON.parse(readFileSync(journal, 'utf8')) as { entries: object[] }
    writeFileSync(journal, JSON.stringify({ ...all, entries: all.entries.slice(0, 6) }))
    const path = join(folder, `earlier-${count}`)
    const before = openDatabase(path, first)
    before.$client.exec(
      `
      insert into cases (id, code, version, body, state, updated_at) values (1, 'SL-0001', 2, '{}', 'open', '');
      insert into history (case_id, version, at, by, kind, fact, was, is_) values (1, 1, 'x', 'x', 'logged', '', 'null', 'null');`.replace(
        'is_',
        '"is"',
      ),
    )
    before.$client.exec(`insert into history (case_id, version, at, by, kind, fact, was, "is")
      values (1, 2, '2026-11-24T10:42:00.000Z', 'Suda', 'fact', 'client.name', 'null', '"${NAME}"')`)
    before.$client.close()
    rmSync(join(path, 'shop.key'))
    return path
  }

  it('is added to the chain and marked, and its plain text is gone from the file', () => {
    shop = earlierShop()
    const after = openDatabase(shop, migrations)
    expect(historySince(after, 1, 0)).toMatchObject([
      { id: 1, version: 1, kind: 'logged', isEarlier: true },
      { id: 2, version: 2, by: 'Suda', fact: 'client.name', was: null, is: NAME, isEarlier: true, isWiped: false },
    ])
    expect(verified()).toEqual({
      fits: `2 entries fit, 2 of them from before there was a chain. Head: ${printedHead(historyHead(after))}`,
    })
    after.$client.pragma('wal_checkpoint(TRUNCATE)')
    after.$client.close()
    expect(readFileSync(join(shop, 'lantern.sqlite')).includes(NAME)).toBe(false)
    expect(existsSync(join(shop, 'shop.key'))).toBe(true)
  })
})

describe('lantern verify', () => {
  const said = async (words: readonly string[]) => {
    let [out, err] = ['', '']
    const code = await runLantern(words, { out: (text) => (out += text), err: (text) => (err += text) })
    return { code, out, err }
  }

  it('answers with its exit code: 0 for a history that fits, 1 for one that does not, 2 where there is none', async () => {
    expect(await said(['verify', '--data', shop, '--head', head()])).toEqual({
      code: 0,
      out: `6 entries fit. Head: ${head()}\n`,
      err: '',
    })
    forge("update history set kind = 'fact' where id = 1")
    expect(await said(['verify', '--data', shop])).toMatchObject({
      code: 1,
      out: '',
      err: expect.stringContaining('Entry 1'),
    })
    expect(await said(['verify', '--data', join(folder, 'nowhere')])).toMatchObject({
      code: 2,
      err: expect.stringContaining('holds no shop'),
    })
    expect(readStored(database, 'RL-0001').version).toBe(1)
  })
})
