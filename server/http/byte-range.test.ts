import { expect, it } from 'vitest'
import { byteRangeOf, firstOf } from './byte-range'

it.each([
  ['bytes=0-', { from: 0, to: 99 }],
  ['bytes=10-19', { from: 10, to: 19 }],
  ['bytes=90-500', { from: 90, to: 99 }],
  ['bytes=-30', { from: 70, to: 99 }],
  // The parser takes this for a range before the beginning; no player asks for it.
  ['bytes=-500', 'beyond'],
  ['bytes=100-', 'beyond'],
  ['bytes=-0', 'beyond'],
  ['bytes=20-10', 'beyond'],
  ['bytes=0-1,5-6', null],
  ['bytes=-', 'beyond'],
  ['nonsense', null],
  ['lines=1-2', null],
  [undefined, null],
])('of a hundred bytes, %s is %j', (header, range) => expect(byteRangeOf(header, 100)).toEqual(range))

it('ends what comes in parts at the last byte that was asked for', async () => {
  const all = async function* () {
    for (let part = 0; part < 4; part++) yield new Uint8Array(10).fill(part)
  }
  const got: Uint8Array[] = []
  for await (const part of firstOf(all(), 25)) got.push(part)
  expect(got.map(({ length }) => length)).toEqual([10, 10, 5])
})
