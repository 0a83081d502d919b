import { expect, it } from 'vitest'
import { defaultPlaybook } from '../../playbook/playbook'
import { GATE_WORDS, lineWords, sheetOf } from './sheet'

const playbook = defaultPlaybook()

it('every route kind has a sheet whose lines can be ticked, and no lines beyond them', () => {
  for (const { id } of playbook.kinds) {
    const sheet = sheetOf({ option: `${id}:d1`, kind: id }, playbook)!
    expect(sheet.steps.map((_, at) => lineWords(`step:${at}`, sheet))).toEqual(sheet.steps)
    expect(sheet.ready.map((_, at) => lineWords(`ready:${at}`, sheet))).toEqual(sheet.ready)
    expect(lineWords(`step:${sheet.steps.length}`, sheet)).toBeNull()
  }
})

it('steps that come before routes have one too; a kind that the playbook lost has only its gates', () => {
  expect(sheetOf({ option: 'safety-copy:d1', kind: 'safety-copy' }, playbook)?.steps.length).toBeGreaterThan(1)
  const lost = sheetOf({ option: 'gone:d1', kind: 'gone' }, playbook)
  expect(lost).toBeNull()
  expect([lineWords('gate:passcode', lost), lineWords('step:0', lost), lineWords('gate:none', lost)]).toEqual([
    GATE_WORDS.passcode,
    null,
    null,
  ])
})
