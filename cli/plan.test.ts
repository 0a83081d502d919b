import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { Plan } from '../core/ranking/situation/plan-shape'
import { lantern } from '../tests/support/captured'
import { planCommand } from './plan'

const folder = mkdtempSync(join(tmpdir(), 'lantern-cli-'))
afterAll(() => rmSync(folder, { recursive: true }))
const file = (name: string, content: string) => {
  writeFileSync(join(folder, name), content)
  return join(folder, name)
}
const now = Date.UTC(2026, 10, 24, 10, 42)
const examples = join(import.meta.dirname, '../docs/examples')

describe('lantern plan', () => {
  it.each(['phone-photos', 'reformatted-card', 'saved-over-sheet', 'fast-disk-switched-off', 'one-account-for-three'])(
    'plans the documented example %s',
    (name) => {
      const outcome = planCommand(join(examples, `${name}.case.json`), { now: '2026-11-24T10:42:00Z' }, now)
      expect('plan' in outcome && Plan.parse(outcome.plan).order.length).toBeGreaterThan(0)
    },
  )

  it('a file of version 1 gives the plan of the same file in version 2', () => {
    const options = { now: '2026-11-24T10:42:00Z' }
    const first = planCommand(join(import.meta.dirname, '../core/testing/version-1.case.json'), options, now)
    expect(first).toEqual(planCommand(join(examples, 'phone-photos.case.json'), options, now))
    const tried = 'plan' in first ? first.plan.options.filter((option) => option.tried > 0.3) : []
    expect(tried.map(({ id }) => id)).toEqual([
      'gallery-bin:d1',
      'cloud-library-bin:c1',
      'medium-deep-scan:c2',
      'backup-selective:c3',
      'ask-sender:c4',
    ])
  })

  it('says each fault on a line of its own, with its path', () => {
    const bad = file(
      'bad.json',
      '{"format":"russet-lantern/case","version":1,"loss":{"how":"vaporised"},"limits":{"money":-1}}',
    )
    const outcome = planCommand(bad, {}, now)
    expect('faults' in outcome && outcome.faults).toEqual([
      expect.stringMatching(/^bad.json: loss.how: /),
      expect.stringMatching(/^bad.json: limits.money: is below zero/),
    ])
  })

  it.each([
    ['a file that is not there', join(folder, 'none.json'), {}, 'none.json: is not there'],
    ['a folder', folder, {}, 'is a folder'],
    ['a moment that is none', join(examples, 'phone-photos.case.json'), { now: 'noon' }, '--now:'],
    [
      'a playbook that is not there',
      join(examples, 'phone-photos.case.json'),
      { playbook: join(folder, 'p.json') },
      'p.json: is not there',
    ],
    [
      'a playbook that is none',
      join(examples, 'phone-photos.case.json'),
      { playbook: join(examples, 'phone-photos.case.json') },
      'format:',
    ],
  ])('refuses %s', (_, path, options, words) => {
    const outcome = planCommand(path, options, now)
    expect('faults' in outcome && outcome.faults.join('\n')).toContain(words)
  })

  it('learns from the outcomes of earlier runs, and refuses a file that has none', () => {
    const example = join(examples, 'phone-photos.case.json')
    const chanceOf = (runs: string | undefined) => {
      const outcome = planCommand(
        example,
        { now: '2026-11-24T10:42:00Z', ...(runs === undefined ? {} : { runs }) },
        now,
      )
      if ('faults' in outcome) throw new Error(outcome.faults.join())
      const route = outcome.plan.options.find((option) => option.family === 'device-bin')!
      return { kind: route.kind, chance: route.chance[1] }
    }
    const before = chanceOf(undefined)
    const failed = Array.from({ length: 30 }, () => ({ kind: before.kind, came: 0 }))
    const runs = file('runs.json', JSON.stringify({ format: 'russet-lantern/runs', version: 1, runs: failed }))
    expect(chanceOf(runs).chance).toBeLessThan(before.chance)
    expect(chanceOf(join(examples, 'earlier.runs.json')).chance).not.toBe(before.chance)
    const bad = planCommand(
      example,
      { runs: file('no.json', '{"format":"russet-lantern/runs","version":1,"runs":[{}]}') },
      now,
    )
    expect('faults' in bad && bad.faults[0]).toMatch(/^no.json: runs.0.kind: /)
  })

  it('prints JSON alone and ends with 0, or with 2 for what cannot be used', async () => {
    const { code, stdout, stderr } = await lantern('plan', join(examples, 'phone-photos.case.json'))
    expect([code, stderr]).toEqual([0, ''])
    expect(Plan.parse(JSON.parse(stdout)).format).toBe('russet-lantern/plan')
    expect(await lantern('plan', file('none-at-all.json', '{'))).toMatchObject({
      code: 2,
      stdout: '',
      stderr: expect.stringContaining('is not JSON'),
    })
    expect((await lantern('plan')).code).toBe(2)
    expect((await lantern('plant', 'x')).code).toBe(2)
    expect(await lantern('plan', '--help')).toMatchObject({ code: 0, stdout: expect.stringContaining('case file') })
  })

  it('the schemas in the docs are those that the app reads with', async () => {
    const kept = ['case', 'playbook', 'plan', 'error', 'runs', 'rows', 'scan', 'link', 'backup'].map((name) =>
      readFileSync(join(import.meta.dirname, `../docs/schemas/${name}.schema.json`), 'utf8'),
    )
    const { caseJsonSchema } = await import('../core/cases/facts/exchange')
    const { playbookJsonSchema } = await import('../core/playbook/playbook')
    const { planJsonSchema } = await import('../core/ranking/situation/plan-shape')
    const { runsJsonSchema } = await import('../core/ranking/situation/evidence')
    const { rowsReportJsonSchema } = await import('../core/sqlite/rows-report')
    const { scanReportJsonSchema } = await import('../core/scanning/scan-report')
    const { errorJsonSchema } = await import('../core/errors')
    const { linkProtocolJsonSchema } = await import('../core/bench/protocol')
    const { backupJsonSchema } = await import('../core/archives/manifest')
    const fresh = [
      caseJsonSchema(),
      playbookJsonSchema(),
      planJsonSchema(),
      errorJsonSchema(),
      runsJsonSchema(),
      rowsReportJsonSchema(),
      scanReportJsonSchema(),
      linkProtocolJsonSchema(),
      backupJsonSchema(),
    ].map((schema) => `${JSON.stringify(schema, null, 2)}\n`)
    expect(kept).toEqual(fresh)
  })
})
