import { describe, expect, it } from 'vitest'
import type { RowsReport } from '../sqlite/rows-report'
import { kindOfTable, recordsOf } from './adapt'
import { formatOnShelf, formatsFor } from './exports/registry'
import { AppRecord, RECORD_KINDS, recordLines, recordMade, recordTitle } from './record'

const reportOf = (tables: RowsReport['tables']): RowsReport => ({
  format: 'russet-lantern/rows',
  version: 1,
  warnings: [],
  tables,
})

it('every kind of the shape is in the registry', () => {
  expect(RECORD_KINDS.map(({ kind }) => kind).sort()).toEqual(
    AppRecord.options.map((option) => option.shape.kind.value).sort(),
  )
})

describe.each(RECORD_KINDS.map((member) => ({ kind: member.kind, member })))(
  'a record of kind $kind',
  ({ kind, member }) => {
    const sample = member.sample as AppRecord

    it('has a sample that fits its shape and says what it is', () => {
      expect(AppRecord.parse(sample)).toEqual(sample)
      expect(recordTitle(sample)).not.toMatch(/^(no .*)?$/)
      expect(recordLines(sample).length).toBeGreaterThan(0)
      const made = recordMade(sample)
      expect(made === null || JSON.stringify(sample).includes(made)).toBe(true)
    })

    it('can be saved in the format in which it is stored on the shelf', () => {
      expect(formatsFor(kind)).toContain(formatOnShelf(kind))
      expect(formatOnShelf(kind).write([sample])).toContain(recordTitle(sample))
    })

    it.runIf(member.table !== null)('is recognised by its tables, and empty where a row lost everything', () => {
      const { examples } = member.table!
      expect(examples.length).toBeGreaterThan(0)
      for (const [name, ...columns] of examples) {
        expect(kindOfTable({ name: name!, columns }), `${name} ${columns}`).toBe(kind)
        const row = { state: 'live', rowid: 1, source: 'btree', complete: true } as const
        const rows = [
          { ...row, values: columns.map(() => 'said') },
          { ...row, values: columns.map(() => null) },
        ]
        const kinds = recordsOf(reportOf([{ name: name!, columns, rows }])).map(({ record }) => record.kind)
        expect(kinds, `${name} ${columns}`).toEqual([kind, 'row'])
      }
    })
  },
)
