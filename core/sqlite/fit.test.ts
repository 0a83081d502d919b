import { describe, expect, it } from 'vitest'
import { isAsStored } from './fit'
import { Habits } from './habits'
import type { Value } from './record'
import { readCreateTable, storedColumns } from './schema'

const table = readCreateTable('create table gates(id integer primary key, level real, raw, note text)', 2)!
const NULL = 0
const FLOAT = 7
const text = (length: number) => 13 + 2 * length
const stored = (types: number[], values: Value[], more = {}) => isAsStored({ types, values, ...more }, 4, table)

describe('a record that the library could have written', () => {
  it('keeps integers in as few bytes as they need', () => {
    expect(stored([NULL, 2, 1, NULL], [null, 200, -128, null])).toBe(true)
    // A byte of zeros in front, or a zero that takes room, comes of bytes that were written over.
    expect(stored([NULL, 4, NULL, NULL], [null, 200, null, null])).toBe(false)
    expect(stored([NULL, 1, NULL, NULL], [null, 0, null, null])).toBe(false)
    expect(isAsStored({ types: [1], values: [0] }, 1)).toBe(true)
    expect(stored([NULL, NULL, 6, NULL], [null, null, 2n ** 62n, null])).toBe(true)
  })

  it('keeps no real number that its column would have kept as an integer', () => {
    expect(stored([NULL, FLOAT, NULL, NULL], [null, 19.25, null, null])).toBe(true)
    expect(stored([NULL, FLOAT, NULL, NULL], [null, 19, null, null])).toBe(false)
    expect(stored([NULL, NULL, FLOAT, NULL], [null, null, 19, null])).toBe(true)
    for (const odd of [1e-306, 0, NaN]) expect(stored([NULL, NULL, FLOAT, NULL], [null, null, odd, null])).toBe(false)
    expect(stored([NULL, FLOAT, NULL, NULL], [null, 1e300, null, null])).toBe(true)
  })

  it('has no zeros in its texts, and no run of zeros that continues behind it', () => {
    expect(stored([NULL, NULL, NULL, text(4)], [null, null, null, 'weir'])).toBe(true)
    expect(stored([NULL, NULL, NULL, text(4)], [null, null, null, 'we\0\0'])).toBe(false)
    expect(stored([NULL, NULL, NULL, text(4)], [null, null, null, 'weir'], { endsInZeros: true })).toBe(false)
  })
})

describe('how live values look', () => {
  const habits = new Habits()
  for (let at = 1; at <= 20; at++) habits.note(table, [null, at / 2 + 0.25, at * 10, `Gate ${at}`])

  it('distinguishes likely values from unlikely ones by form and size', () => {
    expect(habits.rowsOf(table)).toBe(20)
    expect(habits.areUsual(table, [null, 3.75, 70, 'Gate 71'])).toBe(true)
    expect(habits.areUsual(table, [null, 3.75, 70, '1Gate 7'])).toBe(false)
    expect(habits.areUsual(table, [null, 3.75, 28_013, 'Gate 7'])).toBe(false)
    expect(habits.areUsual(table, [null, 3.75, null, 'Gate 7'])).toBe(false)
  })

  it('says nothing against anything where no row is live', () => {
    const other = readCreateTable('create table empty(a, b)', 3)!
    expect(habits.areUsual(other, ['anything', 5])).toBe(true)
  })
})

describe('a table without row ids', () => {
  const keyed = readCreateTable(
    'create table pairs(note text, a integer, b text, primary key (b, a)) without rowid',
    4,
  )!

  it('stores its key first, which is never null', () => {
    expect(storedColumns(keyed).map(({ name, isNotNull }) => [name, isNotNull])).toEqual([
      ['b', true],
      ['a', true],
      ['note', false],
    ])
    expect(keyed.keyColumns).toBe(2)
    expect(table.keyColumns).toBe(0)
  })
})
