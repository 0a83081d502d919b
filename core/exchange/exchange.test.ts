import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { erasingOf } from '../afterwards/erasing'
import { Case } from '../cases/shape/case'
import { isSignatureSvg, signatureSvg } from '../handover/signature'
import { defaultPlaybook } from '../playbook/playbook'
import { markedCase } from '../testing/marked-case'
import { caseCells, CASE_LIST_HEADERS, guessColumns, LIST_COLUMNS, readLine } from './case-list'
import { caseLine, RUN_LIST_HEADERS, runLines } from './csv-lists'
import { renumberedCase } from './renumbered'

const { shop } = defaultPlaybook()
const NOW = Date.UTC(2026, 10, 24, 10, 42)
const context = { zone: 'Europe/London', currency: 'GBP', now: NOW }

describe('a list of cases', () => {
  it('is recognised by what people call their columns, each once', () => {
    expect(guessColumns(['Customer', 'E-Mail', 'Phone No', 'phone', 'Date of loss', 'Name', 'Remarks', ''])).toEqual([
      'client.name',
      'client.mail',
      null,
      'client.phone',
      'loss.when',
      null,
      'note',
      null,
    ])
  })

  it('that was written here is read back as the same facts', () => {
    const whole = markedCase()
    const headers = CASE_LIST_HEADERS.slice(1)
    const read = readLine(caseLine(whole, context).slice(1).map(String), guessColumns(headers), context)
    expect(read.faults).toEqual([])
    const of = (fact: string) => read.changes.find((one) => one.fact === fact)?.is
    expect([of('client.name'), of('loss.how'), read.logged]).toEqual([whole.client.name, whole.loss.how, whole.logged])
    expect(of('devices.d1')).toMatchObject({ kind: 'phone', make: whole.devices[0]!.make })
    expect(caseCells(whole, context)).toHaveLength(LIST_COLUMNS.length - 1)
  })

  it('of anything is read without a crash, and a line without faults is facts of a case', () => {
    const columns = fc.array(fc.constantFrom(null, ...LIST_COLUMNS.map(({ id }) => id)), { maxLength: 8 })
    fc.assert(
      fc.property(columns, fc.array(fc.string({ unit: 'grapheme', maxLength: 60 }), { maxLength: 9 }), (ids, cells) => {
        const unique = ids.map((id, at) => (ids.indexOf(id) === at ? id : null))
        const { faults, changes, note } = readLine(cells, unique, context)
        for (const { column, message } of faults) expect(column && message).toBeTruthy()
        if (faults.length === 0) expect(changes.length > 0 || note !== null || unique.includes('logged')).toBe(true)
      }),
      { numRuns: 300 },
    )
  })

  it('of runs has a line for each wanted set of each run', () => {
    const lines = runLines(markedCase())
    expect(lines).toHaveLength(1)
    expect(lines[0]).toHaveLength(RUN_LIST_HEADERS.length)
    expect(lines[0]!.slice(13, 16)).toEqual(['photos', 7, 7])
  })
})

describe('what comes from another shop', () => {
  it('names attachments by their numbers here, and what did not come along by nothing', () => {
    const whole = markedCase()
    const signed = Case.parse({ ...whole, agreements: whole.agreements.map((one) => ({ ...one, signature: 4 })) })
    expect(renumberedCase(signed, new Map([[4, 90]])).agreements[0]!.signature).toBe(90)
    expect(renumberedCase(signed, new Map()).agreements[0]!.signature).toBeNull()
  })

  it('has signatures that are drawings of the one form, and nothing else', () => {
    const point = fc.tuple(fc.double({ min: 0, max: 4000, noNaN: true }), fc.double({ min: 0, max: 4000, noNaN: true }))
    const strokes = fc.array(fc.array(point, { minLength: 1, maxLength: 9 }), { minLength: 1, maxLength: 5 })
    fc.assert(
      fc.property(strokes, (drawn) => {
        const svg = signatureSvg({ width: 300, height: 100, strokes: drawn })
        expect(isSignatureSvg(svg)).toBe(true)
        for (const [from, to] of [
          ['<g ', '<g onload="x" '],
          ['</g>', '<script/></g>'],
          ['"/>', '"/><image href="x"/>'],
          ['<svg ', '<svg style="x" '],
        ] as const)
          expect(isSignatureSvg(svg.replace(from, to))).toBe(false)
      }),
    )
  })
})

describe('erasing at the wish of a client', () => {
  const paid = (more: object = {}) =>
    Case.parse({
      ...markedCase(),
      state: { name: 'closed', since: '2026-11-02T09:00:00Z' },
      money: {
        charges: [],
        payments: [
          { kind: 'payment', amount: 5, way: 'cash', receipt: 'R-1', at: '2026-11-01T09:00:00Z', by: 'x' },
          { kind: 'refund', amount: 5, way: 'cash', receipt: 'R-2', at: '2026-11-01T09:00:00Z', by: 'x' },
        ],
      },
      ...more,
    })
  const does = (ofCase: Case, now = NOW) => erasingOf(ofCase, shop, now).map((one) => [one.does, one.why])

  it('keeps name and receipts where money changed hands, until their date, and what is not settled', () => {
    expect(does(paid())).toEqual([
      ['wipe', null],
      ['stays', 'receipts'],
    ])
    expect(does(paid(), NOW + 2600 * 86_400_000)).toEqual([
      ['wipe', null],
      ['wipe', null],
    ])
    expect(does(Case.parse({ ...paid(), state: { name: 'at-bench', since: null } }))).toEqual([
      ['stays', 'not-ended'],
      ['stays', 'not-ended'],
    ])
    const wiped = { data: { at: '2026-11-20T09:00:00Z', by: null, why: 'date' } }
    expect(does(paid({ wiping: wiped }))[0]).toEqual(['gone', null])
  })
})
