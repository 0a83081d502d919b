import { expect, it } from 'vitest'
import { withDraft } from './draft'
import { withPeriod } from './periods'
import { defaultPlaybook } from './playbook'
import { upToDate } from './up-to-date'

it('a playbook stored before a kind of route came keeps its periods and gets the kind', () => {
  const period = { minDays: 7, maxDays: 9 }
  const shop = defaultPlaybook()
  const bin = withPeriod(
    shop.kinds.find(({ id }) => id === 'device-photo-bin')!,
    'kept',
    period,
  )!
  const changed = withDraft(shop, { kinds: [bin], removed: [], settled: [] })
  const own = { ...changed.kinds[0]!, id: 'our-own-way', title: 'Our own way' }
  const stored = {
    ...changed,
    bases: [],
    kinds: [
      ...changed.kinds.filter(({ id }) => id !== 'other-device').map((kind) => ({ ...kind, says: 'Old words.' })),
      own,
    ],
  }
  const read = upToDate(stored)
  const kind = (id: string) => read.kinds.find((one) => one.id === id)
  expect(kind('device-photo-bin')?.window).toEqual({ rule: 'kept', period })
  expect(kind('device-photo-bin')?.says).not.toBe('Old words.')
  expect(kind('other-device')?.title).toBe('Take them from {copy}')
  expect(kind('our-own-way')).toEqual(own)
  expect(upToDate(read)).toEqual(read)
})
