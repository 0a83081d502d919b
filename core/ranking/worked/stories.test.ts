import { describe, expect, it } from 'vitest'
import { NOW } from '../../testing/case-with'
import { emptyCase, type Case } from '../../cases/shape/case'
import { factAt, withFacts, withMissingParts } from '../../cases/facts/facts'
import { readCase, writeCase } from '../../cases/facts/exchange'
import { defaultPlaybook } from '../../playbook/playbook'
import { planOf } from '../explain/plan'
import { answer } from '../../cases/telling/answering'
import { readBack, tellingOf } from '../../cases/telling/telling'
import { STORIES, type Story } from '../../testing/stories'

const context = { now: NOW, zone: 'Europe/London', currency: 'GBP' }
const playbook = defaultPlaybook()

/** The story typed word by word; every word has to be one that the telling shows, or that the docket has. */
function told(story: Story): Case {
  let so = emptyCase()
  for (const [fact, typed] of story.typed) {
    const isAdding = /^copies\.c\d+$|^devices\.d\d+$|^wanted\.w\d+$/.test(fact)
    if (isAdding) {
      so = set(so, [{ fact, is: { [fact.startsWith('wanted') ? 'type' : 'kind']: typed } }])
      continue
    }
    const isShown = tellingOf(so).some(({ pieces }) => pieces.some((piece) => 'fact' in piece && piece.fact === fact))
    if (!isShown && !story.fromDocket?.includes(fact))
      throw new Error(`${story.name}: the telling does not ask ${fact}`)
    const read = answer(so, fact, typed, context)
    if (!read.ok) throw new Error(`${story.name}: ${fact} “${typed}”: ${read.message}`)
    so = set(so, read.changes)
  }
  return so
}

function set(so: Case, changes: Parameters<typeof withFacts>[1]): Case {
  const done = withFacts(so, withMissingParts(so, changes))
  if (!done.ok) throw new Error(JSON.stringify(done.faults))
  return done.changed
}

describe('stories as clients tell them', () => {
  it.each(STORIES.map((story) => [story.name, story] as const))('%s', (_name, story) => {
    const ofCase = told(story)
    for (const [fact, value] of Object.entries(story.facts)) expect(factAt(ofCase, fact), fact).toEqual(value)
    const lines = readBack(ofCase, context).join(' ')
    for (const words of story.says) expect(lines).toContain(words)
    expect(lines).not.toContain('unknown')
    expect(readCase(writeCase(ofCase))).toEqual({ ok: true, read: ofCase })
    const plan = planOf(ofCase, playbook, NOW, { depth: 'order' })
    const routes = plan.order.filter((id) => !/^(safety-copy|consent)/.test(id))
    expect(routes.slice(0, 3), `${routes.join(', ')}`).toContain(story.leads)
    for (const hold of story.holds ?? []) expect(plan.holds.map(({ id }) => id)).toContain(hold)
    for (const id of story.closed ?? [])
      expect(plan.options.find((option) => option.id === id)?.standing, id).toBe('closed')
  })
})
