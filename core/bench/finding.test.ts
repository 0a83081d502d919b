import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { caseWith } from '../testing/case-with'
import { entryParts } from '../archives/entry-name'
import { wantedBy, wantedByFetched, type Judged } from './match'
import { safeName, SafePaths } from './safe-path'

const item = (more: Partial<Judged>): Judged => ({
  name: 'IMG_1.jpg',
  place: [],
  type: 'photos',
  made: null,
  changed: null,
  presence: 'deleted',
  ...more,
})
const sets = caseWith({
  'wanted.w1': { type: 'photos', made: { from: '2026-11-03T00:00:00Z', to: '2026-11-08T23:00:00Z' } },
  'wanted.w2': { type: 'documents', names: 'chapter 4, *.tex' },
}).wanted

describe('what belongs to a wanted set', () => {
  it('is of its type, and was made when the client says, a day more or less', () => {
    expect(wantedBy(item({ made: '2026-11-05T10:00:00Z' }), sets)).toBe('w1')
    expect(wantedBy(item({ made: '2026-11-02T03:00:00Z' }), sets)).toBe('w1')
    expect(wantedBy(item({ made: '2026-10-01T10:00:00Z' }), sets)).toBeNull()
    expect(wantedBy(item({ made: '2026-11-05T10:00:00Z', type: 'videos' }), sets)).toBeNull()
    // Without a date of its own it is held to nothing but its name, and none is known here.
    expect(wantedBy(item({}), sets)).toBeNull()
    expect(wantedBy(item({ changed: '2026-11-05T10:00:00Z' }), sets)).toBe('w1')
  })

  it('is also what somebody fetched for it without a date, or with the date of the fetching', () => {
    const lost = Date.parse('2026-11-09T00:00:00Z')
    expect(wantedByFetched(item({}), sets, lost)).toBe('w1')
    expect(wantedByFetched(item({ changed: '2026-11-10T10:00:00Z' }), sets, lost)).toBe('w1')
    // A date that the item has of its own counts as ever, and so does one of change from before the loss.
    expect(wantedByFetched(item({ made: '2026-11-10T10:00:00Z' }), sets, lost)).toBeNull()
    expect(wantedByFetched(item({ changed: '2026-10-01T10:00:00Z' }), sets, lost)).toBeNull()
    expect(wantedByFetched(item({ changed: '2026-11-10T10:00:00Z' }), sets, null)).toBeNull()
    // Where names are known, they have to fit.
    expect(wantedByFetched(item({ type: 'documents', name: 'chapter 5.docx' }), sets, lost)).toBeNull()
    expect(wantedByFetched(item({ type: 'videos' }), sets, lost)).toBeNull()
  })

  it('has one of the names or extensions, however they are written', () => {
    for (const name of ['Chapter4.docx', 'old-chapter_4 (copy).odt', 'notes.tex', 'CHAPTER 4'])
      expect(wantedBy(item({ type: 'documents', name }), sets), name).toBe('w2')
    for (const name of ['chapter 5.docx', 'tex.docx', 'texture'])
      expect(wantedBy(item({ type: 'documents', name }), sets), name).toBeNull()
  })
})

describe('paths on the shelf', () => {
  it('are safe on every common file system, whatever the name was', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string({ unit: 'binary', maxLength: 300 }),
          fc.constantFrom('..', '.', '', 'CON', 'nul.txt', 'a/../b', 'x.', ' y ', '\u202egpj.exe'),
        ),
        (name) => {
          const safe = safeName(name)
          expect(safe).not.toMatch(/[\\/:*?"<>|]/)
          expect(safe).not.toMatch(/^\.+$|[. ]$|^$/)
          expect([...safe].length).toBeLessThanOrEqual(120)
          expect(entryParts(safe)).toEqual([safe])
        },
      ),
    )
    expect(safeName('con')).toBe('_con')
    expect(safeName(`${'x'.repeat(200)}.jpeg`)).toMatch(/^x+\.jpeg$/)
  })

  it('are never the same twice, also where big and small letters are one', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom('a.jpg', 'A.jpg', 'a (2).jpg', 'b', 'B '), { maxLength: 30 }), (names) => {
        const paths = new SafePaths(['there/a.jpg'])
        const given = names.map((name) => paths.pathFor(['There'], name).toLowerCase())
        expect(new Set(given).size).toBe(given.length)
        expect(given).not.toContain('there/a.jpg')
      }),
    )
  })
})
