import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { demoCases } from '../../../stand-ins/shop/cases'
import { demoTimes } from '../../../stand-ins/shop/times'
import { emptyCase, type Case } from '../shape/case'
import { caseJsonSchema, readCase, writeCase } from './exchange'
import { withFacts } from './facts'

const now = Date.UTC(2026, 10, 24, 10, 42)
const cases: Case[] = demoCases(demoTimes(now, 'Europe/London')).map((demo) => {
  const set = withFacts(emptyCase(), demo.facts)
  if (!set.ok) throw new Error(JSON.stringify(set.faults))
  return set.changed
})

describe('the case file', () => {
  it('gives every case back as it was', () => {
    for (const one of cases) expect(readCase(writeCase(one))).toEqual({ ok: true, read: one })
  })

  it('leaves out what is not known', () => {
    expect(writeCase(emptyCase())).not.toContain('unknown')
    expect(JSON.parse(writeCase(emptyCase()))).toEqual({ format: 'russet-lantern/case', version: 2 })
  })

  it('needs only its format and version', () => {
    expect(readCase('{"format":"russet-lantern/case","version":1}')).toEqual({ ok: true, read: emptyCase() })
    expect(readCase('\uFEFF{"format":"russet-lantern/case","version":1}').ok).toBe(true)
  })

  it.each([
    ['no JSON', '{"format":', ''],
    ['another format', '{"format":"other","version":1}', 'format'],
    ['a later version', '{"format":"russet-lantern/case","version":3}', 'version'],
    ['a wrong word', '{"format":"russet-lantern/case","version":1,"loss":{"how":"vaporised"}}', 'loss.how'],
    ['a misspelt fact', '{"format":"russet-lantern/case","version":1,"loss":{"whenn":"x"}}', 'loss.whenn'],
    [
      'a stranger in a list',
      '{"format":"russet-lantern/case","version":1,"copies":[{"id":"c1","kind":"person","smell":1}]}',
      'copies.0.smell',
    ],
    [
      'an id twice',
      '{"format":"russet-lantern/case","version":1,"copies":[{"id":"c1","kind":"person"},{"id":"c1","kind":"person"}]}',
      'copies',
    ],
    [
      'more whole than back',
      '{"format":"russet-lantern/case","version":1,"runs":[{"id":"r1","option":"x","kind":"x","title":"x","by":"x","started":"2026-11-01T00:00:00Z","results":[{"wanted":"w1","back":1,"whole":2}]}]}',
      'runs.0.results.0.whole',
    ],
    ['a list instead', '[]', ''],
    ['too large', `"${'x'.repeat(2_100_000)}"`, ''],
  ])('refuses %s, with the path', (_, json, path) => {
    const read = readCase(json)
    expect(read.ok).toBe(false)
    expect(read.ok ? [] : read.faults.map((fault) => fault.path)).toContain(path)
  })

  it('never throws, and what it reads it writes again', () => {
    fc.assert(
      fc.property(fc.constantFrom(...cases), fc.nat(), fc.string({ maxLength: 3 }), (one, at, junk) => {
        const text = writeCase(one)
        const place = at % text.length
        const read = readCase(text.slice(0, place) + junk + text.slice(place + junk.length))
        if (read.ok) expect(readCase(writeCase(read.read))).toEqual(read)
      }),
      { numRuns: 300 },
    )
  })

  it('has a JSON Schema that names its parts', () => {
    const schema = caseJsonSchema() as { properties: Record<string, unknown>; required: string[] }
    expect(Object.keys(schema.properties)).toEqual(
      expect.arrayContaining(['client', 'devices', 'wanted', 'loss', 'copies', 'limits', 'consent', 'holds', 'runs']),
    )
    expect(schema.required).toEqual(['format', 'version'])
  })
})
