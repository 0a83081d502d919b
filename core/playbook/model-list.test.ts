import { expect, it } from 'vitest'
import { demoPlaybook } from '../../stand-ins/shop/shop'
import { MODEL_COLUMNS, modelLines, readModels } from './model-list'

const { models } = demoPlaybook().shop

it('a list of makers and models is the same after it was written and read again', () => {
  expect(readModels(MODEL_COLUMNS, modelLines(models))).toEqual({ ok: true, models })
})

it('is read by words on the screen, in any order of columns, and names the lines that cannot be read', () => {
  const read = readModels(
    ['Platform', 'Make', 'discard'],
    [['Open platform', 'Brindle 4', 'erases freed blocks by a timer']],
  )
  expect(read).toEqual({ ok: true, models: [{ make: 'Brindle 4', platform: 'open-phone', discard: 'by-timer' }] })
  expect(readModels(['maker'], [['x']])).toMatchObject({ ok: false })
  const faulty = readModels(
    ['make', 'kind'],
    [
      ['Brindle', 'phone'],
      ['Harrow', 'toaster'],
      ['', 'phone'],
    ],
  )
  expect(faulty).toEqual({
    ok: false,
    faults: ['Line 3: “toaster” is no kind.', 'Line 4: the make is missing or too short.'],
  })
})
