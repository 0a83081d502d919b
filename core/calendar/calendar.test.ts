import ical, { type VEvent } from 'node-ical'
import { describe, expect, it } from 'vitest'
import { Task } from '../bench/action'
import { Keep } from '../bench/keep'
import { DAY_MS, isoOf } from '../cases/shape/moment'
import { CASE_TEXTS } from '../cases/facts/texts'
import { Case } from '../cases/shape/case'
import { defaultPlaybook } from '../playbook/playbook'
import { markedCase, markOf } from '../testing/marked-case'
import { datesOf } from './dates'
import { calendarOf } from './icalendar'

const { shop } = defaultPlaybook()
const NOW = Date.UTC(2026, 10, 24, 10, 42)
const task = { action: 'ask-export', title: 'x', begun: isoOf(NOW), done: 0, total: 1, says: '' } as const
const keep = { kind: 'export', title: 'x', types: ['photos' as const], count: 1, bytes: 1 } as const
const links = [
  {
    id: 'guild-account',
    sessionEnds: isoOf(NOW + DAY_MS),
    tasks: [
      Task.parse({ ...task, id: 't1', state: 'running', ends: isoOf(NOW + 2 * DAY_MS) }),
      Task.parse({ ...task, id: 't0', state: 'done', ends: isoOf(NOW - DAY_MS) }),
    ],
    keeps: [
      Keep.parse({ ...keep, id: 'export-1', until: isoOf(NOW + 1.5 * DAY_MS) }),
      Keep.parse({ ...keep, id: 'posts' }),
    ],
  },
]
const known = { shop, closes: NOW + 3 * DAY_MS, links, now: NOW }
const inState = (name: string) => Case.parse({ ...markedCase(), state: { name, since: isoOf(NOW) } })
const kinds = (ofCase: Case) => datesOf(ofCase, known).map(({ kind }) => kind)

describe('the dates of a case', () => {
  it('are what its state gives: while it is worked on, once it is ready, and afterwards', () => {
    const worked = {
      ...inState('at-bench'),
      limits: { ...markedCase().limits, deadline: { from: isoOf(NOW + 5 * DAY_MS), to: isoOf(NOW + 6 * DAY_MS) } },
    }
    expect(kinds(worked)).toEqual(['expires', 'expires', 'arrives', 'closes', 'deadline'])
    expect(kinds(inState('ready'))).toEqual(['remind'])
    expect(kinds(inState('closed'))).toEqual(['wipe'])
    const freezes = [
      { cause: 'illegal' as const, says: 'x', told: '', paper: null, at: isoOf(NOW), by: 'x', lifted: null },
    ]
    expect(kinds({ ...worked, freezes })).toEqual([])
  })

  it('are read by another program as they were meant, with codes and without a single text of the case', () => {
    const dates = ['at-bench', 'ready', 'closed'].flatMap((name) => datesOf(inState(name), known))
    const text = calendarOf(dates, 'Sluice Lane, “Repairs”; and more', NOW)
    for (const { path } of CASE_TEXTS) expect(text).not.toContain(markOf(path))
    const events = Object.values(ical.sync.parseICS(text)).filter((one) => one?.type === 'VEVENT')
    expect(events).toHaveLength(dates.length)
    for (const [at, date] of dates.entries()) {
      const event = events[at] as VEvent
      expect([event.start.getTime(), String(event.summary)]).toEqual([date.at, expect.stringMatching(/^RL-0001: /)])
    }
    expect(new Set(events.map((one) => (one as VEvent).uid)).size).toBe(dates.length)
    expect(text.split('\r\n').every((line) => Buffer.byteLength(line) <= 75)).toBe(true)
  })
})
