import { describe, expect, it } from 'vitest'
import { HashQueue, MAX_WAITING, type HashOrder } from './hash-queue'

function slowQueue() {
  const begun: string[] = []
  const ends: (() => void)[] = []
  const work = (order: HashOrder) =>
    new Promise<boolean>((done, failed) => {
      begun.push(order.password)
      ends.push(() => (order.password === 'breaks' ? failed(new Error('the thread has ended')) : done(true)))
    })
  const settle = () => new Promise((done) => setImmediate(done))
  return { queue: new HashQueue(work), begun, end: () => (ends.shift()!(), settle()) }
}

describe('the queue of password hashes', () => {
  it('does one at a time, and known devices before strangers', async () => {
    const { queue, begun, end } = slowQueue()
    for (const name of ['stranger 1', 'stranger 2']) void queue.fits('', name, 'strange')
    void queue.fits('', 'Ottilie', 'known')
    expect(begun).toEqual(['stranger 1'])
    await end()
    await end()
    expect(begun).toEqual(['stranger 1', 'Ottilie', 'stranger 2'])
  })

  it('refuses strangers once their lane is full, and never for their sake a known device', async () => {
    const { queue } = slowQueue()
    for (let count = 0; count <= MAX_WAITING; count++) void queue.fits('', 'stranger', 'strange')
    expect(() => queue.fits('', 'stranger', 'strange')).toThrow('Too many people')
    expect(() => void queue.fits('', 'Ottilie', 'known')).not.toThrow()
  })

  it('goes on with the next one where one failed', async () => {
    const { queue, begun, end } = slowQueue()
    const broken = queue.fits('', 'breaks', 'strange')
    const right = queue.fits('', 'right', 'strange')
    void end()
    await expect(broken).rejects.toThrow('the thread has ended')
    await end()
    expect(begun).toEqual(['breaks', 'right'])
    expect(await right).toBe(true)
  })
})
