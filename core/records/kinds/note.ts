import { z } from 'zod'
import { TEXT, TITLE, WITH, type ColumnNames } from '../columns'
import { body, firstLine, line, when } from '../fields'
import { recordKind } from '../record-kind'

const NOTE_TEXT: ColumnNames = ['body', 'text', 'content', 'note', 'notes', 'memo']
const CHANGED: ColumnNames = [
  'changed',
  'modified',
  'updated',
  'datemodified',
  'lastmodified',
  'edited',
  'created',
  'at',
  'date',
  'modifiedat',
]

const shape = z.object({ kind: z.literal('note'), title: line, text: body, changed: when })
const title = (one: z.infer<typeof shape>) => one.title || firstLine(one.text) || 'no text'

/** A note. */
export const note = recordKind(shape, {
  type: 'notes',
  savedAs: 'markdown',
  title,
  subtitle: (one) => one.text.slice(0, 80),
  made: (one) => one.changed,
  lines: (one) => [{ as: 'long', text: one.text }],
  table: {
    // A table with text and a correspondent holds messages, unless its own name says notes.
    holds: (columns) =>
      (columns.isNamed(/note|memo/) && columns.has(NOTE_TEXT)) ||
      (columns.has(TEXT, TITLE, CHANGED) && !columns.has(WITH)),
    examples: [
      ['notes', 'title', 'content', 'modified'],
      ['memo', 'note', 'created'],
      ['n', 'title', 'body', 'updated'],
    ],
    read: (row) => ({ title: row.text(TITLE), text: row.text(NOTE_TEXT), changed: row.when(CHANGED) }),
    isEmpty: (one) => one.text === '' && one.title === '',
  },
  sample: { kind: 'note', title: 'Winter', text: 'Grease the paddles.', changed: '2026-11-07T17:20:00.000Z' },
})
