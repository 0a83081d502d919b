import { z } from 'zod'
import { REMARK, SECONDS, STARTS, TITLE, type ColumnNames } from '../columns'
import { body, line, when } from '../fields'
import { recordKind } from '../record-kind'

const ENDS: ColumnNames = ['ends', 'end', 'dtend', 'enddate', 'endtime', 'endsat', 'finish']
const PLACE: ColumnNames = ['place', 'location', 'where', 'venue', 'eventlocation']
const ALL_DAY: ColumnNames = ['allday', 'isallday', 'wholeday']

const shape = z.object({
  kind: z.literal('event'),
  title: line,
  starts: when,
  ends: when,
  place: line.default(''),
  note: body.default(''),
  isAllDay: z.boolean().default(false),
})

/** An entry of a calendar. */
export const event = recordKind(shape, {
  type: 'calendar',
  savedAs: 'icalendar',
  title: (one) => one.title || 'no title',
  subtitle: (one) => one.place,
  made: (one) => one.starts,
  lines: (one) => [
    { as: 'moment', at: one.starts },
    { as: 'soft', text: one.place },
    { as: 'long', text: one.note },
  ],
  table: {
    holds: (columns) =>
      (columns.has(STARTS, TITLE) && !columns.has(SECONDS)) ||
      columns.has(STARTS, ENDS) ||
      (columns.has(STARTS) && columns.isNamed(/event|calendar|appointment/)),
    examples: [
      ['events', 'title', 'dtstart', 'dtend'],
      ['calendar', 'summary', 'start', 'end', 'location'],
    ],
    read: (row) => ({
      title: row.text(TITLE),
      starts: row.when(STARTS),
      ends: row.when(ENDS),
      place: row.text(PLACE),
      note: row.text(REMARK),
      isAllDay: row.truth(ALL_DAY) ?? false,
    }),
    isEmpty: (one) => one.title === '' && one.starts === null,
  },
  sample: {
    kind: 'event',
    title: 'Weed count',
    starts: '2026-11-24T10:00:00.000Z',
    ends: '2026-11-24T11:00:00.000Z',
    place: 'Lock 7',
    note: 'Bring waders.',
    isAllDay: false,
  },
})
