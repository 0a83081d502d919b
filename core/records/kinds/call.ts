import { z } from 'zod'
import { NAME, PHONE, SECONDS, STARTS, TEXT, WHEN, WITH } from '../columns'
import { line, when } from '../fields'
import { recordKind } from '../record-kind'

const shape = z.object({
  kind: z.literal('call'),
  number: line,
  name: line.default(''),
  at: when,
  seconds: z.number().min(0).max(1e9).nullable().default(null),
  direction: z.enum(['in', 'out', 'missed']).nullable().default(null),
})

const minutes = (seconds: number | null) => (seconds === null ? '' : `, ${Math.round(seconds / 60)} min`)

/** An entry of a call list. */
export const call = recordKind(shape, {
  type: 'call-records',
  savedAs: 'json',
  title: (one) => one.name || one.number || 'no number',
  subtitle: (one) => one.number,
  made: (one) => one.at,
  lines: (one) => [
    { as: 'figure', text: one.number },
    { as: 'moment', at: one.at },
    { as: 'text', text: `${one.direction ?? 'call'}${minutes(one.seconds)}` },
  ],
  table: {
    holds: (columns) => columns.has(SECONDS) && (columns.has(PHONE) || columns.has(WITH)) && !columns.has(TEXT),
    examples: [
      ['calls', 'number', 'date', 'duration', 'type'],
      ['log', 'phone', 'started', 'seconds'],
    ],
    read: (row) => ({
      number: row.text(PHONE) || row.text(WITH),
      name: row.text(NAME),
      at: row.when(WHEN) ?? row.when(STARTS),
      seconds: row.number(SECONDS),
      direction: row.direction(),
    }),
    isEmpty: (one) => one.number === '' && one.name === '',
  },
  sample: {
    kind: 'call',
    number: '01632 960111',
    name: 'Alma Tarn',
    at: '2026-11-07T17:20:00.000Z',
    seconds: 180,
    direction: 'in',
  },
})
