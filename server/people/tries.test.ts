import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { addressOf, isLoopback, Tries, type Origin } from './tries'

const from = (address: string, device: string | null = null): Origin => ({ address, device })
const STRANGER = from('192.168.7.66')

/** How many of some attempts at the same moment are looked at. */
async function lookedAt(tries: Tries, attempts: readonly (readonly [string, Origin])[]): Promise<number> {
  const results = await Promise.allSettled(attempts.map(([name, origin]) => tries.begin(name, origin)))
  return results.filter(({ status }) => status === 'fulfilled').length
}
const times = (count: number, name: (at: number) => string, origin: (at: number) => Origin) =>
  Array.from({ length: count }, (_, at) => [name(at), origin(at)] as const)

describe('attempts to sign in', () => {
  beforeEach(() => void vi.useFakeTimers())
  afterEach(() => void vi.useRealTimers())

  it('are counted before they are looked at: of 120 at once for one name, five are', async () => {
    expect(
      await lookedAt(
        new Tries(),
        times(
          120,
          () => 'ottilie',
          () => STRANGER,
        ),
      ),
    ).toBe(5)
  })

  it('of many names from one address: ten a minute are looked at, and then again', async () => {
    const tries = new Tries()
    expect(
      await lookedAt(
        tries,
        times(
          64,
          (at) => `name-${at}`,
          () => STRANGER,
        ),
      ),
    ).toBe(10)
    await vi.advanceTimersByTimeAsync(61_000)
    expect(
      await lookedAt(
        tries,
        times(
          64,
          (at) => `other-${at}`,
          () => STRANGER,
        ),
      ),
    ).toBe(10)
  })

  it('keep a name locked from an address, even while ten thousand other names are tried', async () => {
    const tries = new Tries()
    expect(
      await lookedAt(
        tries,
        times(
          6,
          () => 'ottilie',
          () => STRANGER,
        ),
      ),
    ).toBe(5)
    await lookedAt(
      tries,
      times(
        10_000,
        (at) => `name-${at}`,
        (at) => from(`10.0.${at >> 8}.${at & 255}`),
      ),
    )
    await expect(tries.begin('ottilie', STRANGER)).rejects.toThrow(/Try again in \d+ seconds/)
  })

  it('of strangers at many addresses are limited for one name, and lock out neither a known device nor the shop’s machine', async () => {
    const tries = new Tries()
    expect(
      await lookedAt(
        tries,
        times(
          2000,
          () => 'ottilie',
          (at) => from(`10.0.${at >> 8}.${at & 255}`),
        ),
      ),
    ).toBe(60)
    await expect(tries.begin('ottilie', from('192.168.7.5'))).rejects.toThrow('minutes')
    await tries.begin('ottilie', from('192.168.7.5', 'her-tablet'))
    await tries.begin('ottilie', from('127.0.0.1'))
  })

  it('at a known device are limited too, and are forgotten once the password was right', async () => {
    const tries = new Tries()
    const device = from('192.168.7.5', 'her-tablet')
    for (let round = 0; round < 3; round++) {
      expect(
        await lookedAt(
          tries,
          times(
            4,
            () => 'ottilie',
            () => device,
          ),
        ),
      ).toBe(4)
      await tries.wasRight('ottilie', device)
    }
    expect(
      await lookedAt(
        tries,
        times(
          9,
          () => 'ottilie',
          () => device,
        ),
      ),
    ).toBe(5)
  })

  it('that are right do not use up what an address may do: a whole shop signs in from one machine', async () => {
    const tries = new Tries()
    const machine = from('127.0.0.1')
    let inside = 0
    for (let person = 0; person < 30; person++) {
      await tries.begin(`person-${person}`, machine)
      await tries.wasRight(`person-${person}`, machine)
      inside++
    }
    expect(inside).toBe(30)
  })

  it('add up over half a day, however patiently they are made', async () => {
    const tries = new Tries()
    let looked = 0
    for (let round = 0; round < 700; round++) {
      looked += await lookedAt(
        tries,
        times(
          5,
          () => 'ottilie',
          () => STRANGER,
        ),
      )
      await vi.advanceTimersByTimeAsync(61_000)
    }
    expect(looked).toBe(40)
  })
})

describe('an address', () => {
  it.each([
    ['::ffff:192.168.7.5', '192.168.7.5'],
    ['192.168.7.5', '192.168.7.5'],
    ['::1', '::1'],
    ['fd00:1:2:3:4:5:6:7', 'fd00:1:2:3::/64'],
    ['fd00:1:2:3:ffff::9', 'fd00:1:2:3::/64'],
    ['fe80::1%eth0', 'fe80:0:0:0::/64'],
    [undefined, ''],
  ])('%s counts as %s', (remote, counted) => {
    expect(addressOf(remote)).toBe(counted)
  })

  it('is this machine’s own or not', () => {
    expect(['127.0.0.1', '127.8.9.1', '::1'].every(isLoopback)).toBe(true)
    expect(['128.0.0.1', '192.168.7.5', '127.0.0.1.example', ''].some(isLoopback)).toBe(false)
  })
})
