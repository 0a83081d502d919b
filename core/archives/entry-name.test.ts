import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cleanName, entryParts } from './entry-name'

describe('the name of an entry', () => {
  it('stays as it is, but for what an archive of a folder puts before it', () => {
    expect(cleanName('DCIM/100/a.jpg')).toBe('DCIM/100/a.jpg')
    expect(cleanName('./manifest.json')).toBe('manifest.json')
    expect(cleanName('././items/000001.txt')).toBe('items/000001.txt')
    expect(cleanName('.\\letters\\one.txt')).toBe('letters/one.txt')
    expect(cleanName('.hidden/..two')).toBe('.hidden/..two')
  })

  it.each([
    '',
    '.',
    './',
    '../a',
    'a/../b',
    './../a',
    '/etc/a',
    '//a',
    'C:/a',
    'a//b',
    'a/./b',
    'a\u0000b',
    'x/'.repeat(61) + 'a',
  ])('that wants out of its folder, or can be none, is refused: %j', (name) => expect(cleanName(name)).toBe(null))

  it('never leads out of its folder, whatever it was', () => {
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom('.', '/', '\\', 'a', ':'), maxLength: 30 }), (name) => {
        const parts = entryParts(name)
        for (const part of parts ?? []) expect(['', '.', '..']).not.toContain(part)
      }),
    )
  })
})
