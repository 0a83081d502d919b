import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Case, CASE_FORMAT } from '../cases/shape/case'
import { DAY_MS, isoOf } from '../cases/shape/moment'
import { defaultPlaybook } from '../playbook/playbook'
import { heldWords, recordWords } from './words'
import { countedFrom, wipeDates, wipeStandings } from './standing'

const { shop } = defaultPlaybook()
const BACK = Date.UTC(2026, 10, 3, 12)
const step = (name: 'received' | 'returned' | 'lent', at: number) => ({ step: name, at: isoOf(at), by: 'Bram' })
const thing = (steps: object[], isLoan = false) => ({ id: isLoan ? 't9' : 't1', words: 'a phone', isLoan, steps })
const ended = (more: object = {}): Case =>
  Case.parse({
    format: CASE_FORMAT,
    version: 1,
    code: 'RL-0001',
    state: { name: 'closed', since: isoOf(BACK + 5 * DAY_MS) },
    things: [thing([step('received', BACK - 9 * DAY_MS), step('returned', BACK)])],
    ...more,
  })
const stateAt = (ofCase: Case, now: number) => wipeStandings(ofCase, shop, now).map(({ state }) => state)

describe('the dates on which a case is wiped', () => {
  it('are counted from the return, also where the case was closed later; from its end where nothing was brought', () => {
    expect(countedFrom(ended())).toBe(BACK)
    expect(countedFrom(ended({ things: [] }))).toBe(BACK + 5 * DAY_MS)
    expect(wipeDates(ended(), shop)).toEqual({ data: BACK + 30 * DAY_MS, person: BACK + 2555 * DAY_MS })
    for (const name of ['logged', 'at-bench', 'ready'] as const) {
      const open = ended({ state: { name, since: isoOf(BACK) } })
      expect([wipeDates(open, shop), stateAt(open, BACK + 9999 * DAY_MS)]).toEqual([
        { data: null, person: null },
        ['held', 'held'],
      ])
    }
  })

  it('come one after the other, and the data never later than the name', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 4000 }),
        fc.integer({ min: 0, max: 4000 }),
        fc.integer({ min: 0, max: 4000 }),
        (wipeDays, personDays, later) => {
          const kept = ended({ wiping: { keepUntil: isoOf(BACK + later * DAY_MS) } })
          const { data, person } = wipeDates(kept, { ...shop, papers: { ...shop.papers, wipeDays, personDays } })
          expect(data! <= person! && data! >= BACK + Math.max(wipeDays, later) * DAY_MS).toBe(true)
        },
      ),
    )
  })

  it('reached mean due; what is not paid, still here or lent out asks first', () => {
    const after = BACK + 30 * DAY_MS
    expect(stateAt(ended(), after - 1)).toEqual(['later', 'later'])
    expect(stateAt(ended(), after)).toEqual(['due', 'later'])
    const charge = { id: 'p1', words: 'work', amount: 35, at: isoOf(BACK), by: 'Bram' }
    const asking: [object, string][] = [
      [{ money: { charges: [charge] } }, 'unpaid'],
      [
        { things: [thing([step('received', BACK)])], state: { name: 'uncollected', since: isoOf(BACK) } },
        'things-here',
      ],
      [{ things: [thing([step('lent', BACK)], true)] }, 'loan-out'],
    ]
    for (const [more, ask] of asking) {
      const [data] = wipeStandings(ended(more), shop, after + 5 * DAY_MS)
      expect(data, ask).toMatchObject({ state: 'asks', asks: [ask] })
    }
  })

  it('do not matter while the case is stopped or a run is open', () => {
    const freeze = { cause: 'illegal', says: 'x', at: isoOf(BACK), by: 'Bram' }
    const run = { id: 'r1', option: 'x', kind: 'x', title: 'x', by: 'Bram', started: isoOf(BACK) }
    for (const [more, stop] of [
      [{ freezes: [freeze] }, 'stopped'],
      [{ runs: [run] }, 'run-open'],
    ] as const)
      expect(wipeStandings(ended(more), shop, BACK + 9999 * DAY_MS)[0]).toMatchObject({ state: 'held', stop })
  })

  it('are said with what was held, and without a name', () => {
    const counts = { files: 2, bytes: 3_400_000, items: 1, sheets: 0, pictures: 3, secrets: 0, entries: 12 }
    expect(heldWords(counts)).toBe('2 files (3.4 MB), one listed item, 3 pictures, 12 entries of the history')
    expect(heldWords({ files: 0, bytes: 0, items: 0, sheets: 0, pictures: 0, secrets: 0, entries: 0 })).toBe('nothing')
    const at = isoOf(BACK)
    const record = {
      id: 1,
      code: 'RL-0001',
      part: 'data',
      at,
      by: null,
      why: 'date',
      counts,
      outside: 0,
      backupsUntil: at,
    }
    expect(recordWords(record as Parameters<typeof recordWords>[0])).toContain(
      'the data of RL-0001, because its date came: 2',
    )
  })
})
