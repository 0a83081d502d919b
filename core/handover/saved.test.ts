import { describe, expect, it } from 'vitest'
import { ago, ahead, caseWith } from '../testing/case-with'
import { wouldHaveSaved } from './saved'

const saved = (facts: Record<string, unknown>) =>
  wouldHaveSaved(
    caseWith({
      'devices.d1': { kind: 'phone', platform: 'open-phone', make: 'Korvane 7' },
      'wanted.w1': { type: 'photos' },
      'loss.when': ago(5),
      ...facts,
    }),
  )
const backup = (copy: object = {}) => ({ 'copies.c1': { kind: 'computer-backup', taken: ago(6), ...copy } })

describe('what would have saved a case', () => {
  it('follows from its facts, and says nothing where nothing was missing', () => {
    expect(saved(backup())).toEqual([])
    expect(saved({})).toEqual([expect.stringContaining('no backup of Korvane 7')])
  })

  it.each([
    [{ 'devices.d1.bins.photos': 'off' }, /picture bin of Korvane 7 was off/],
    [backup({ taken: ago(40) }), /35 days old when it happened/],
    [backup({ ran: 'no', replaced: ago(4) }), /did not come/],
    [backup({ replaced: ahead(1) }), /Keep three states/],
    [backup({ encrypted: 'yes', password: 'not-known' }), /password of/],
    [{ ...backup(), 'copies.c2': { kind: 'cloud-library', sync: 'off' } }, /Sync with/],
    [{ ...backup(), 'copies.c2': { kind: 'cloud-library', account: 'not-known' } }, /sign in/],
    [{ ...backup(), 'devices.d1.lock': 'locked', 'devices.d1.passcode': 'not-known' }, /passcode of Korvane 7/],
    [{ ...backup(), 'copies.c2': { kind: 'medium' }, 'loss.how': 'formatted' }, /formatted with the only copy/],
  ])('%j: %s', (facts, words) => expect(saved(facts)).toContainEqual(expect.stringMatching(words)))
})
