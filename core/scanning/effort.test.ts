import { describe, expect, it } from 'vitest'
import { bytesSource } from '../sources/source'
import { Effort, measured, Spent } from './effort'

const MB = 1 << 20
const source = bytesSource(new Uint8Array(4 * MB))

/** How often a megabyte can be read before the share is used up. */
function reads(effort: Effort): number {
  const counted = measured(source, effort)
  for (let count = 0; count < 1000; count++)
    try {
      counted.read(0, MB)
    } catch (error) {
      expect(error).toBeInstanceOf(Spent)
      return count
    }
  return Infinity
}

describe('what joining may read', () => {
  it('is shared among the files, and what one leaves is there for the others', () => {
    const effort = new Effort(100 * MB)
    effort.begin(50)
    expect(reads(effort)).toBe(15)
    effort.begin(1)
    expect(reads(effort)).toBeGreaterThan(80)
    effort.begin(1)
    expect(reads(effort)).toBe(0)
  })

  it('ends also where each read is small', () => {
    const effort = new Effort(MB)
    effort.begin(1)
    const counted = measured(source, effort)
    expect(() => {
      for (let count = 0; count < 2000; count++) counted.read(count, 1)
    }).toThrow(Spent)
  })
})
