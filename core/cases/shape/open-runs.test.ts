import { describe, expect, it } from 'vitest'
import { Case, CASE_FORMAT } from './case'
import { openRunsOf, partOfBatch, refusalOfAnother, runAt } from './open-runs'

const at = '2026-11-24T10:42:00Z'
const clock = (phase: 'hands-on' | 'waiting') => ({ phase, since: at })
const run = (id: string, option: string, more: object = {}) => ({
  id,
  option,
  kind: option.split(':')[0],
  title: `Run ${id}`,
  by: 'Bram',
  started: at,
  ...more,
})
const caseOf = (...runs: object[]) =>
  Case.parse({
    format: CASE_FORMAT,
    version: 1,
    devices: [{ id: 'd1' }, { id: 'd2' }],
    copies: [
      { id: 'c1', kind: 'computer-backup', device: 'd1' },
      { id: 'c2', kind: 'medium', device: 'd2' },
    ],
    runs,
  })

describe('the run that work at the bench belongs to', () => {
  const both = caseOf(
    run('r1', 'device-photo-bin:d1', { clock: clock('waiting') }),
    run('r2', 'medium-quick-pass:c2', { copy: 'c2', clock: clock('hands-on') }),
  )

  it('is the one that reads the part, or its device, though another is being worked on', () => {
    expect(runAt(both, 'd1')?.id).toBe('r1')
    expect(runAt(both, 'c2')?.id).toBe('r2')
    expect(runAt(both, 'c1')?.id).toBe('r1')
  })

  it('is the one that files were brought for, and no other once that has ended or where they were brought for the case', () => {
    expect(runAt(both, partOfBatch(7, 'r1'))?.id).toBe('r1')
    expect(runAt(both, partOfBatch(7, 'r9'))).toBeNull()
    expect(runAt(both, partOfBatch(7, null))).toBeNull()
  })

  it('is the one being worked on where the part says nothing, and none where none is open', () => {
    expect(runAt(both, null)?.id).toBe('r2')
    expect(runAt(both, 'd9')?.id).toBe('r2')
    const ended = caseOf(run('r1', 'device-photo-bin:d1', { ended: at }))
    expect([runAt(ended, 'd1'), openRunsOf(ended)]).toEqual([null, []])
  })
})

describe('a second run', () => {
  const isExclusive = (kind: string) => kind === 'restore' || kind === 'safety-copy'
  const refusal = (open: string[], next: string) =>
    refusalOfAnother(
      open.map((option) => ({ option, kind: option.split(':')[0]!, title: option })),
      { option: next, kind: next.split(':')[0]! },
      isExclusive,
    )

  it('may start beside another, but not twice', () => {
    expect(refusal(['social-export:c1'], 'photo-bin:d1')).toBeNull()
    expect(refusal(['photo-bin:d1'], 'photo-bin:d1')).toContain('already under way')
  })

  it('neither takes something away beside others, nor starts beside one that does', () => {
    expect(refusal(['social-export:c1'], 'restore:c1')).toContain('social-export:c1')
    expect(refusal(['safety-copy:d1'], 'photo-bin:d1')).toContain('safety-copy:d1')
    expect(refusal([], 'restore:c1')).toBeNull()
  })
})
