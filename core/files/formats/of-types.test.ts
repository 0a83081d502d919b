import { describe, expect, it } from 'vitest'
import { DATA_TYPES } from '../../cases/shape/data-types'
import { formatsOf } from './of-types'

describe('the formats in which kinds of data are kept', () => {
  it('are all of them where nothing narrower is wanted', () => {
    expect(formatsOf([])).toBe(null)
    expect(formatsOf(['photos', 'files'])).toBe(null)
  })

  it('are some for every kind that is narrower', () => {
    for (const type of DATA_TYPES.filter((one) => one !== 'files'))
      expect(formatsOf([type])!.size, type).toBeGreaterThan(0)
  })

  it('leave out what cannot hold it', () => {
    const photos = formatsOf(['photos'])!
    for (const id of ['jpeg', 'png', 'tiff', 'heif']) expect(photos).toContain(id)
    for (const id of ['pdf', 'mp3', 'sqlite', 'matroska']) expect(photos).not.toContain(id)
    // Documents of offices are archives, and their older kinds compound files.
    for (const id of ['pdf', 'zip', 'ole', 'rtf', 'text']) expect(formatsOf(['documents'])).toContain(id)
    expect(formatsOf(['contacts'])).toEqual(new Set(['vcard', 'text', 'sqlite']))
  })
})
