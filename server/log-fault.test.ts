import { readFileSync } from 'node:fs'
import { afterEach, expect, it, vi } from 'vitest'
import { logFault } from './log-fault'

afterEach(() => void vi.restoreAllMocks())

it('the log of the server has kind, code and place of an error, and no name out of its message', () => {
  const said = vi.spyOn(console, 'error').mockImplementation(() => {})
  const failures = [
    () => readFileSync('/nowhere/Maud Oxley/holiday.jpg'),
    () => JSON.parse('Maud Oxley'),
    () => {
      throw new Error('Maud Oxley', { cause: new AggregateError([new Error('Maud Oxley')], 'Maud Oxley') })
    },
  ]
  for (const fail of failures)
    try {
      fail()
    } catch (error) {
      logFault(error)
    }
  logFault('Maud Oxley')
  logFault(new TypeError('one is not a function'), 'While renewing')
  const text = said.mock.calls.flat().join('\n')
  expect(text).not.toMatch(/Maud|holiday/)
  for (const part of ['ENOENT open', 'SyntaxError', 'log-fault.test.ts', 'While renewing', 'one is not a function'])
    expect(text).toContain(part)
})
