import { expect, it } from 'vitest'
import { bytesSource, piecesSource } from '../sources/source'
import { sampleBytes } from '../testing/format-samples'
import { deepScan } from './deep'
import { knownProofs } from './known-proofs'
import { prove } from './prove'

const UNIT = 512
const names = ['weir.jpg', 'plan.png', 'bell.flac', 'letter.docx', 'barge.mp4', 'flag.gif'] as const
const medium = new Uint8Array(1 << 20)
const places = names.map((name, at) => {
  const bytes = sampleBytes(name)
  medium.set(bytes, at * 131_072)
  return { name, extents: [[at * 131_072, bytes.length]] as const }
})
const image = bytesSource(medium)
const options = { isWhole: false, formats: null }
const items = Array.from(deepScan(image, [], options)).flatMap((step) => step.items)
const helpers = knownProofs(items)

it('tells of whole files what another look would tell', () => {
  const told = places.map(({ name, extents }) => {
    const known = helpers.answer({ asks: 'proof', extents, name, unitBytes: UNIT })
    const proof = prove(piecesSource(image, extents), name, UNIT)
    if (known) expect(known).toEqual({ ...proof, walk: { ...proof.walk, resume: [] } })
    return known !== undefined
  })
  // A film proves nothing of itself.
  expect(told).toEqual([true, true, true, true, false, true])
})

it('tells nothing of another place, length or kind of name', () => {
  const [{ extents }] = places as unknown as [(typeof places)[0]]
  const [[offset, length]] = extents
  const ask = (extent: readonly [number, number], name: string) =>
    helpers.answer({ asks: 'proof', extents: [extent], name, unitBytes: UNIT })
  expect(ask([offset, length], 'weir.jpeg')).toBeDefined()
  expect(ask([offset, length], 'weir.png')).toBeUndefined()
  expect(ask([offset, length], 'weir')).toBeUndefined()
  expect(ask([offset, length - 1], 'weir.jpg')).toBeUndefined()
  expect(ask([offset + UNIT, length], 'weir.jpg')).toBeUndefined()
})

it('asks others for the rest', () => {
  const asked: string[] = []
  const other = { worthAfter: 0, hasRoom: true, answer: () => undefined, pass: () => {} }
  const both = knownProofs(items, { ...other, ask: (question) => void asked.push(question.asks) })
  both.ask({ asks: 'proof', extents: places[0]!.extents, name: 'weir.jpg', unitBytes: UNIT })
  both.ask({ asks: 'proof', extents: [[512, 9000]], name: 'weir.jpg', unitBytes: UNIT })
  expect(asked).toEqual(['proof'])
  expect(both.hasRoom).toBe(true)
})
