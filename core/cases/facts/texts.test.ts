import { describe, expect, it } from 'vitest'
import { z } from 'zod'
import { markedCase, markOf } from '../../testing/marked-case'
import { Case } from '../shape/case'
import { CASE_TEXTS, textsOf, withoutTexts } from './texts'

interface Schema {
  readonly type?: string
  readonly enum?: unknown
  readonly const?: unknown
  readonly format?: string
  readonly pattern?: string
  readonly properties?: Record<string, Schema>
  readonly items?: Schema
  readonly additionalProperties?: Schema | boolean
  readonly anyOf?: readonly Schema[]
}

/** Strings that are no text about a client: staff, codes, ids, and references to other parts. */
const NO_TEXT =
  /(^|\.)(by|seenBy|with|code|id|option|kind|copy|failedOn|receipt|returnOf|hold)$|^override\.order|^notKnown|\.gates\.|^client\.id$/

/** The path of every string of a schema that is neither one of a list nor of a fixed form; numbers of phones and mail are. */
function strings(schema: Schema, path: string): string[] {
  if (schema.anyOf) return schema.anyOf.flatMap((one) => strings(one, path))
  const inner = (key: string) => (path === '' ? key : `${path}.${key}`)
  if (schema.properties) return Object.entries(schema.properties).flatMap(([key, one]) => strings(one, inner(key)))
  if (schema.items) return strings(schema.items, inner('*'))
  if (typeof schema.additionalProperties === 'object') return strings(schema.additionalProperties, inner('*'))
  const isContact = path === 'client.phone' || path === 'client.mail'
  const isFixed = schema.enum !== undefined || schema.const !== undefined || schema.format || schema.pattern
  return schema.type === 'string' && (isContact || !isFixed) ? [path] : []
}

describe('the texts of a case', () => {
  it('are every one that the schema has', () => {
    const all = strings(z.toJSONSchema(Case, { io: 'output', unrepresentable: 'any' }) as Schema, '')
      // Consents are three alike, of which `by` is whoever agreed.
      .map((path) => path.replace(/^consent\.\w+\./, 'consent.*.'))
      .filter((path) => path === 'consent.*.by' || !NO_TEXT.test(path))
    expect(all).toContain('client.phone')
    expect([...new Set(all)].sort()).toEqual(CASE_TEXTS.map(({ path }) => path).sort())
  })

  it('are found where they are, with words for the place', () => {
    const texts = textsOf(markedCase())
    for (const { path, words } of CASE_TEXTS)
      expect(texts.find(({ text }) => text === markOf(path))?.rule.words, path).toBe(words)
  })

  it('go with the data or with the person; figures, dates and codes stay, and what is left is a case', () => {
    const whole = markedCase()
    const withoutData = withoutTexts(whole, 'data')
    const bare = withoutTexts(withoutData, 'person')
    for (const { path, end } of CASE_TEXTS) {
      const [first, second] = [withoutData, bare].map((one) => JSON.stringify(one).includes(markOf(path)))
      expect([first, second], path).toEqual([end === 'person', false])
    }
    expect(Case.parse(bare)).toEqual(bare)
    expect(bare.runs[0]!.results).toEqual(whole.runs[0]!.results)
    expect([bare.code, bare.logged, bare.contacts[0]!.at]).toEqual([whole.code, whole.logged, whole.contacts[0]!.at])
    expect(withoutTexts(bare, 'data')).toEqual(bare)
  })
})
