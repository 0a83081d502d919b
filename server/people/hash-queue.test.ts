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
    for (const name of ['stranger 1', 'stranger 2']) void queue.fits('', name, 'strange', '10.0.0.9')
    void queue.fits('', 'Ottilie', 'known', '10.0.0.1')
    expect(begun).toEqual(['stranger 1'])
    await end()
    await end()
    expect(begun).toEqual(['stranger 1', 'Ottilie', 'stranger 2'])
  })

  it('refuses strangers once their lane is full, and never for their sake a known device', async () => {
    const { queue } = slowQueue()
    for (let count = 0; count <= MAX_WAITING; count++) void queue.fits('', 'stranger', 'strange', '10.0.0.9')
    expect(() => queue.fits('', 'stranger', 'strange', '10.0.0.9')).toThrow('Too many people')
    expect(() => void queue.fits('', 'Ottilie', 'known', '10.0.0.1')).not.toThrow()
  })

  it('serves each who waits in turn: a flood from one address holds up no other', async () => {
    const { queue, begun, end } = slowQueue()
    for (let at = 0; at < 9; at++) void queue.fits('', `flood ${at}`, 'strange', '10.0.0.9')
    for (const name of ['Suda', 'Jory']) void queue.fits('', name, 'strange', `the tablet of ${name}`)
    for (let at = 0; at < 3; at++) await end()
    expect(begun).toEqual(['flood 0', 'Suda', 'Jory', 'flood 1'])
  })

  it('runs the next one after one that failed', async () => {
    const { queue, begun, end } = slowQueue()
    const broken = queue.fits('', 'breaks', 'strange', '10.0.0.9')
    const right = queue.fits('', 'right', 'strange', '10.0.0.9')
    void end()
    await expect(broken).rejects.toThrow('the thread has ended')
    await end()
    expect(begun).toEqual(['breaks', 'right'])
    expect(await right).toBe(true)
  })
})
