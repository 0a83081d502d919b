import { describe, expect, it } from 'vitest'
import { readList } from './read-list'

const bytes = (text: string) => new TextEncoder().encode(text)

describe('a list out of a sheet', () => {
  it('is read with commas, semicolons or tabs, with quotes and a mark in front', () => {
    for (const sign of [',', ';', '\t'])
      expect(readList(bytes(`\uFEFFname${sign}note\r\n"Oxley${sign} Maud"${sign}"said ""soon"""\r\n\r\n`))).toEqual({
        headers: ['name', 'note'],
        lines: [[`Oxley${sign} Maud`, 'said "soon"']],
      })
  })

  it('is read in the encoding of older sheets where it is not UTF-8', () => {
    expect(readList(Uint8Array.from([...bytes('name\nRen'), 0xe9])).lines).toEqual([['René']])
  })

  it('that cannot be read says why', () => {
    expect(() => readList(bytes('name\n"open'))).toThrow('cannot be read')
    expect(() => readList(bytes('name\n'))).toThrow('no line below')
    expect(() => readList(new Uint8Array(3_000_001))).toThrow('larger than 3 MB')
  })
})
