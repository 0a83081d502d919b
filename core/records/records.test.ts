import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { RowsReport } from '../sqlite/rows-report'
import { kindOfTable, recordsOf } from './adapt'
import { momentFrom } from './moments'

const table = (
  name: string | null,
  columns: string[],
  ...rows: (string | number | null)[][]
): RowsReport['tables'][number] => ({
  name,
  columns,
  rows: rows.map((values, at) => ({ state: 'live', rowid: at + 1, values, source: 'btree', complete: true })),
})
const report = (...tables: RowsReport['tables']): RowsReport => ({
  format: 'russet-lantern/rows',
  version: 1,
  warnings: [],
  tables,
})

describe('records out of rows', () => {
  it('of no kind that is known stay rows', () => {
    for (const columns of [['id', 'key', 'value'], ['name', 'kind'], ['url']])
      expect(kindOfTable(table('other', columns))).toBeNull()
  })

  it('keep what the row says', () => {
    const records = recordsOf(
      report(
        table(
          'sms',
          ['_id', 'address', 'date', 'body', 'outgoing'],
          [1, '07700 900 111', 1_731_000_000_000, 'Key is under the pot', 1],
        ),
        table(
          'people',
          ['given_name', 'family_name', 'phone', 'mobile'],
          ['Alma', 'Tarn', '01632 960 111', null],
          [null, null, null, null],
        ),
        table(null, [], ['loose', 7]),
      ),
    ).map(({ record }) => record)
    expect(records[0]).toMatchObject({
      kind: 'message',
      thread: '07700 900 111',
      text: 'Key is under the pot',
      isMine: true,
      at: '2024-11-07T17:20:00.000Z',
    })
    expect(records[1]).toMatchObject({ kind: 'contact', name: 'Alma Tarn', phones: ['01632 960 111'] })
    // A row that lost all that would make it a contact, and one of no table, are shown as what they are.
    expect(records[2]).toMatchObject({ kind: 'row' })
    expect(records[3]).toMatchObject({ kind: 'row', values: ['loose', 7] })
  })

  it('read times in the units that apps count in', () => {
    const moment = '2026-11-24T10:42:00.000Z'
    const ms = Date.parse(moment)
    for (const value of [ms / 1000, ms, ms * 1000, ms / 1000 - 978_307_200, moment, '2026-11-24 10:42:00Z'])
      expect(momentFrom(value), String(value)).toBe(moment)
    for (const value of [0, -5, 17, null, 'soon', NaN, { int: '1' }]) expect(momentFrom(value)).toBeNull()
  })

  it('never throw, whatever a table is called and holds', () => {
    const cell = fc.oneof(
      fc.constant(null),
      fc.double(),
      fc.string({ unit: 'binary' }),
      fc.constant({ blob: 'ff' }),
      fc.constant({ int: '9223372036854775807' }),
    )
    const columns = fc.array(
      fc.constantFrom('name', 'phone', 'body', 'date', 'title', 'url', 'start', 'end', 'duration', 'x'),
      { maxLength: 8 },
    )
    fc.assert(
      fc.property(
        fc.option(fc.string()),
        columns,
        fc.array(fc.array(cell, { maxLength: 9 }), { maxLength: 5 }),
        (name, names, rows) => {
          const odd = {
            name,
            columns: names,
            rows: rows.map((values) => ({
              state: 'deleted' as const,
              rowid: null,
              values,
              source: 'freelist' as const,
              complete: false,
            })),
          }
          expect(recordsOf(report(odd))).toHaveLength(rows.length)
        },
      ),
    )
  })
})
