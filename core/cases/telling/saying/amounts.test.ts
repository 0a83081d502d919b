import { describe, expect, it } from 'vitest'
import { readCount, readMoney, readSize, sayBytes } from './amounts'

const amount = (read: ReturnType<typeof readSize>) => (read.ok ? read.amount : null)

describe('amounts as people say them', () => {
  it.each([
    ['128 GB', 128e9],
    ['about 4.1gb', 4.1e9],
    ['500 megabytes', 5e8],
    ['2 GiB', 2 * 1024 ** 3],
    ['64', 64e9],
    ['0.5 TB', 5e11],
  ])('size %s', (said, bytes) => expect(amount(readSize(said))).toBe(bytes))

  it.each([
    ['about 310', 310],
    ['2,000', 2000],
    ['a dozen', 12],
    ['1', 1],
  ])('count %s', (said, count) => expect(amount(readCount(said))).toBe(count))

  it('money, with or without its sign', () => {
    expect(amount(readMoney('up to £120'))).toBe(120)
    expect(amount(readMoney('1,200.50'))).toBe(1200.5)
  })

  it('refuses what is none, with an example', () => {
    for (const read of [
      readSize('large'),
      readSize('99999'),
      readCount('0'),
      readCount('-3'),
      readCount('many'),
      readMoney('enough'),
    ]) {
      expect(read.ok).toBe(false)
      expect(read.ok ? '' : read.message).toMatch(/Try|holds/)
    }
  })

  it('says sizes in units that people read', () => {
    expect([0, 980, 4_100, 4_100_000_000, 12.46e9, 64e9, 128e9, 2e12].map(sayBytes)).toEqual([
      '0 bytes',
      '980 bytes',
      '4.1 kB',
      '4.1 GB',
      '12.5 GB',
      '64 GB',
      '128 GB',
      '2 TB',
    ])
  })
})
