import { describe, expect, it } from 'vitest'
import { ago, caseWith } from '../testing/case-with'
import { Keep } from './keep'
import { EVERYTHING, firstPass, needsReading, nextKeep, viewsOf } from './next'

const keep = (id: string, kind: Keep['kind'], types: Keep['types'], more: Partial<Keep> = {}) =>
  Keep.parse({ id, kind, title: id, types, count: 5, bytes: 10, ...more })
const wanting = (type: string, how = 'deleted-in-bulk') =>
  caseWith({ 'wanted.w1': { type }, 'loss.how': how, 'loss.when': ago(2) })

const library = keep('library', 'library', ['photos', 'videos'])
const bin = keep('bin', 'bin', ['photos', 'videos'])
const notes = keep('notes-bin', 'bin', ['notes'])
const versions = keep('versions', 'versions', ['documents'])

describe('where to look next', () => {
  it('is the bin after a deletion, or the only place that can hold the wanted items', () => {
    expect(nextKeep([library, bin, notes], wanting('photos'))).toBe('bin')
    expect(nextKeep([library, bin, notes], wanting('notes'))).toBe('notes-bin')
    expect(nextKeep([library, versions], wanting('documents', 'saved-over'))).toBe('versions')
  })

  it('is everything where no place is likelier, and nothing where none can be listed', () => {
    expect(nextKeep([library, bin], wanting('photos', 'factory-reset'))).toBe(EVERYTHING)
    expect(nextKeep([library, bin], wanting('contacts'))).toBe(EVERYTHING)
    for (const shut of [{ closed: 'It is locked.' }, { isOn: false }, { count: 0 }])
      expect(nextKeep([{ ...bin, ...shut }], wanting('photos'))).toBeNull()
    expect(nextKeep([keep('backup.1', 'backup', ['photos'])], wanting('photos'))).toBeNull()
  })

  it('is behind the reading of apps only where their rows are wanted', () => {
    const apps = keep('apps', 'apps', ['messages'], { closed: 'They have not been read yet.' })
    expect(needsReading([apps], wanting('messages'))).toBe(true)
    expect(needsReading([apps], wanting('photos'))).toBe(false)
    expect(needsReading([{ ...apps, closed: null }], wanting('messages'))).toBe(false)
  })
})

it('a format wants the content at once, a deletion the records first', () => {
  expect(firstPass(wanting('photos', 'formatted'))).toBe('both')
  expect(firstPass(wanting('photos'))).toBe('quick')
})

describe('how found items are laid out', () => {
  const counts = (photos: number, documents: number) => ({
    types: [
      { type: 'photos' as const, count: photos },
      { type: 'documents' as const, count: documents },
    ],
    total: photos + documents,
  })
  it('by day where most have one, by folder on a medium, as a list always', () => {
    expect(viewsOf(counts(6, 5), {}, false)).toEqual(['days', 'list'])
    expect(viewsOf(counts(5, 5), {}, false)).toEqual(['list'])
    expect(viewsOf(counts(5, 5), { type: 'photos' }, true)).toEqual(['days', 'folders', 'list'])
    expect(viewsOf(counts(9, 0), { type: 'documents' }, true)).toEqual(['folders', 'list'])
    expect(viewsOf(null, {}, true)).toEqual(['folders', 'list'])
  })
})
