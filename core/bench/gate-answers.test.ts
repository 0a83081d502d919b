import { expect, it } from 'vitest'
import { GATE_NAMES } from '../playbook/kinds/route-kind'
import { gateAnswer } from './gate-answers'
import { Keep } from './keep'
import { LINK_STATES, type LinkState } from './state'

const state = (kind: LinkState['kind'], name: LinkState['state'], keeps: object[] = []) => ({
  kind,
  state: name,
  keeps: keeps.map((keep, at) =>
    Keep.parse({ id: `k${at}`, title: 'Keep', types: ['photos'], count: 3, bytes: 9, ...keep }),
  ),
})

it('the link answers what it shows: passcode, sign-in, cable, password of a backup', () => {
  const cases = [
    ['passcode', state('phone', 'locked'), 'not-met'],
    ['passcode', state('phone', 'ready'), 'met'],
    ['passcode', state('account', 'ready'), null],
    ['account', state('account', 'signed-out'), 'not-met'],
    ['account', state('account', 'asks-second-factor'), 'not-met'],
    ['account', state('account', 'ready'), 'met'],
    ['cable', state('phone', 'debugging-off'), 'not-met'],
    ['cable', state('phone', 'locked'), null],
    ['cable', state('phone', 'charging'), 'met'],
    ['backup-password', state('backups', 'locked'), 'not-met'],
    ['backup-password', state('backups', 'ready'), 'met'],
    ['working', state('phone', 'lost'), null],
    ['working', state('phone', 'locked'), 'met'],
  ] as const
  for (const [gate, of, answer] of cases) expect(gateAnswer(gate, of, []), `${gate}, ${of.state}`).toBe(answer)
})

it('a bin counts for the types that it holds, and is off only where every such bin is', () => {
  const phone = state('phone', 'ready', [
    { kind: 'bin', types: ['photos'], isOn: false },
    { kind: 'bin', types: ['notes'], isOn: true },
  ])
  expect(gateAnswer('bin-on', phone, ['photos'])).toBe('not-met')
  expect(gateAnswer('bin-on', phone, ['photos', 'notes'])).toBe('met')
  expect(gateAnswer('bin-on', phone, ['audio'])).toBeNull()
})

it('no gate is called met by a link that is lost, and what only people know is left to them', () => {
  for (const gate of GATE_NAMES)
    for (const name of LINK_STATES) {
      if (name === 'lost') expect(gateAnswer(gate, state('phone', name), ['photos']), gate).not.toBe('met')
      if (gate.startsWith('consent') || gate === 'price') expect(gateAnswer(gate, state('phone', name), [])).toBeNull()
    }
})
