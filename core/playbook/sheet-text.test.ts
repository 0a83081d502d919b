import fc from 'fast-check'
import { expect, it } from 'vitest'
import { movedTo, readSheetText, sheetText } from './sheet-text'
import { shippedKinds } from './up-to-date'

it('the run sheet of every kind is the same after it was written as text and read again', () => {
  for (const { sheet, aftercare } of shippedKinds())
    expect(readSheetText(sheetText({ ...sheet, aftercare }))).toEqual({ ...sheet, aftercare })
})

it('is read as people type it', () => {
  const read = readSheetText(
    'Unlock it.\n\n ready:\n- A cable\n\nSTEPS:\r\n 1. List the bin.\n2) Count them.\nStop if:\n• It asks twice',
  )
  expect(read).toEqual({
    ready: ['A cable'],
    steps: ['Unlock it.', 'List the bin.', 'Count them.'],
    lookFor: [],
    stopIf: ['It asks twice'],
    aftercare: [],
  })
})

it('a step that is dragged keeps all steps', () => {
  fc.assert(
    fc.property(fc.array(fc.string()), fc.nat(20), fc.nat(20), (list, from, to) => {
      const moved = movedTo(list, from, to)
      expect([...moved].sort()).toEqual([...list].sort())
      if (from < list.length) expect(moved[Math.min(list.length - 1, to)]).toBe(list[from])
    }),
  )
})
