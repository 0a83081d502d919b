import Sqlite from 'better-sqlite3'
import { sql } from 'drizzle-orm'
import { drizzle } from 'drizzle-orm/better-sqlite3'
import { describe, expect, it } from 'vitest'
import { beginsWith, holds } from './like'

const database = drizzle(new Sqlite(':memory:'))
const is = (claim: ReturnType<typeof holds>) => database.get<{ is: number }>(sql`select ${claim} as "is"`).is === 1
const text = (words: string) => sql`${words}`

describe('a pattern', () => {
  it('finds what was typed anywhere, and signs of patterns only as themselves', () => {
    expect(is(holds(text('Maud Oxley'), 'oxl'))).toBe(true)
    expect(is(holds(text('Maud Oxley'), 'o_l'))).toBe(false)
    expect(is(holds(text('100 % wool'), '0 % w'))).toBe(true)
    expect(is(holds(text('Maud'), '%'))).toBe(false)
    expect(is(holds(text('a\\b'), '\\'))).toBe(true)
  })

  it('finds a beginning', () => {
    expect(is(beginsWith(text('DCIM / 100'), 'DCIM / '))).toBe(true)
    expect(is(beginsWith(text('old DCIM / 100'), 'DCIM / '))).toBe(false)
    expect(is(beginsWith(text('DCIMX / 100'), 'DCIM_'))).toBe(false)
  })
})
