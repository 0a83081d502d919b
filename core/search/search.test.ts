import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { excerpt, marksIn } from './marks'
import { endsOf, folded, isSearchable, matchQuery, partsText, soughtNumber, soughtWords } from './query'

describe('what is sought', () => {
  it('is words without accents, capitals and signs', () => {
    expect(soughtWords('  Émile, IMG_0412.jpg "or" émile')).toEqual(['emile', 'img', '0412', 'jpg', 'or'])
    expect([isSearchable('é'), isSearchable('él'), isSearchable('%%%')]).toEqual([false, true, false])
    expect(matchQuery('%')).toBeNull()
  })

  it('gets into a query only as letters and digits in quotes', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 80 }), (typed) => {
        const query = matchQuery(typed)
        if (query !== null) expect(query).toMatch(/^"[\p{L}\p{N}\p{Co}]+"\*( "[\p{L}\p{N}\p{Co}]+"\*)*$/u)
      }),
    )
  })

  it('is a number where it is digits and marks', () => {
    expect(['(960) 214', '01632 960-1', '12', 'RL-0012', '12 Oak Road'].map(soughtNumber)).toEqual([
      '960214',
      '016329601',
      null,
      null,
      null,
    ])
  })

  it('finds any three letters of a name, and any three digits of a number', () => {
    expect(endsOf('Ashby')).toEqual(['ashby', 'shby', 'hby'])
    const parts = partsText(['Maud de Ruyter'], ['+44 163'])
    for (const part of ['maud', 'yter', 'uyt', '4163', '163'])
      expect(
        parts.split(' ').some((one) => one.startsWith(part)),
        part,
      ).toBe(true)
  })
})

describe('marks', () => {
  it('are where a word begins, otherwise inside of one', () => {
    expect(marksIn('Maud took the maudlin map', ['maud'])).toEqual([
      [0, 4],
      [14, 18],
    ])
    expect(marksIn('Merrifield', ['field'])).toEqual([[5, 10]])
    expect(marksIn('ÉMILE’s weir.jpg', ['emi', 'weir'])).toEqual([
      [0, 3],
      [8, 12],
    ])
  })

  it('of any text are inside of it, in order, and hold what was sought', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 400 }), fc.string({ unit: 'grapheme' }), (text, typed) => {
        const words = soughtWords(typed)
        let last = 0
        for (const [from, to] of marksIn(text, words)) {
          expect(from >= last && to > from && to <= text.length).toBe(true)
          expect(words.some((word) => folded(text.slice(from, to)).includes(word))).toBe(true)
          last = to
        }
        expect(folded(text)).toHaveLength(text.length)
      }),
    )
  })

  it('of a long text are shown with a part of it around the first of them', () => {
    const long = `${'before '.repeat(80)}the heron ${'after '.repeat(80)}`
    const shown = excerpt(long, ['heron'])!
    expect(shown.text).toMatch(/^… .*the heron .* …$/)
    expect(shown.marks.map(([from, to]) => shown.text.slice(from, to))).toEqual(['heron'])
    expect(shown.text.length).toBeLessThan(180)
    expect(excerpt(long, ['egret'])).toBeNull()
  })
})
