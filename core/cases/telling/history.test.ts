import { describe, expect, it } from 'vitest'
import { NOW } from '../../testing/case-with'
import { historyWords, type HistoryEntry } from './history'

const context = { now: NOW, zone: 'Europe/London', currency: 'GBP' }
const say = (kind: HistoryEntry['kind'], fact: string, was: unknown, is: unknown) =>
  historyWords({ kind, fact, was, is }, context)

describe('a change in a sentence', () => {
  it.each([
    [say('logged', '', null, {}), 'logged the case'],
    [say('imported', '', null, {}), 'imported the case from a file'],
    [say('fact', 'limits.money', 'unknown', 90), 'can spend: £90'],
    [say('fact', 'limits.money', 60, 90), 'can spend: £60 → £90'],
    [say('fact', 'limits.money', 60, 'unknown'), 'can spend: no longer known (was £60)'],
    [say('fact', 'loss.how', 'unknown', 'formatted'), 'how it was lost: lost in a format'],
    [say('fact', 'copies.c1', null, { id: 'c1', kind: 'person', label: 'her sister' }), 'added the sister'],
    [say('fact', 'copies.c1', { id: 'c1', kind: 'cloud-library' }, null), 'took out the cloud library'],
    [
      say('fact', 'secrets.s1', null, { id: 's1', kind: 'account', label: 'her mail account' }),
      'added an account of several copies: her mail account',
    ],
    [say('fact', 'copies.c1.accountOf', 'unknown', 's1'), 'changed which account'],
    [say('fact', 'copies.c1.lies', 'unknown', 'apart'), 'where it lies: apart'],
    [say('fact', 'copies.c1.holds.w1', null, { share: 0.5 }), 'how many of them: half'],
    [say('fact', 'loss.since.writtenBytes', 'unknown', { from: 2e9, to: 5e9 }), 'written since: 2 to 5 GB'],
    [say('fact', 'wanted.w1', undefined, { id: 'w1', type: 'notes' }), 'added a wanted set: notes'],
    [say('fact', 'devices.d1', { id: 'd1' }, { id: 'd1', make: 'Korvane 7' }), 'changed Korvane 7'],
    [say('hold', 'stop-using', null, { mark: 'ticked' }), 'ticked the hold “stop using”'],
    [say('hold', 'stop-using', null, { mark: 'waived', reason: 'a spare' }), 'waived the hold “stop using”: a spare'],
    [say('hold', 'stop-using', { mark: 'ticked' }, null), 'reopened the hold “stop using”'],
    [say('run-started', 'r1', null, { title: 'Notes bin' }), 'started: Notes bin'],
    [
      say(
        'run-ended',
        'r1',
        {},
        {
          title: 'Notes bin',
          results: [
            { back: 5, whole: 4 },
            { back: 2, whole: 2 },
          ],
        },
      ),
      'ended: Notes bin, 7 back, 6 of them whole, 1 damaged',
    ],
    [say('run-ended', 'r1', {}, { title: 'Notes bin', results: [] }), 'ended: Notes bin, nothing came back'],
    [
      say('run-ended', 'r1', {}, { title: 'Battery', option: 'repair:d1', results: [] }),
      'ended: Battery, it runs again',
    ],
    [
      say('run-ended', 'r1', {}, { title: 'Notes bin', failedOn: 'backup-password' }),
      'ended: Notes bin, which failed on: backup password',
    ],
    [
      say('moved', 'state', {}, { name: 'waiting', waitingFor: 'part', reason: 'ordered' }),
      'moved the case to “waiting for part”: ordered',
    ],
  ])('%s', (words, expected) => expect(words).toBe(expected))

  it('a part that an older version knew differently is still named', () => {
    expect(say('fact', 'copies.c1', null, { id: 'c1', kind: 'gone-since' })).toBe('added a copy')
  })
})
