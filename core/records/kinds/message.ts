import { z } from 'zod'
import { TEXT, WHEN, WITH, type ColumnNames } from '../columns'
import { body, firstLine, line, when } from '../fields'
import { recordKind } from '../record-kind'

const MINE: ColumnNames = ['ismine', 'isfromme', 'fromme', 'outgoing', 'sent', 'mine']
const ATTACHMENTS: ColumnNames = ['attachments', 'attachment', 'media', 'file', 'filename']

const shape = z.object({
  kind: z.literal('message'),
  /** with whom: a number, an address, a name of a group */
  thread: line,
  isMine: z.boolean().nullable().default(null),
  text: body,
  at: when,
  /** names of files that were sent with it */
  attachments: z.array(line).max(100).default([]),
})

/** A message of a thread, of whatever app. */
export const message = recordKind(shape, {
  type: 'messages',
  savedAs: 'json',
  title: (one) => firstLine(one.text) || one.attachments[0] || 'no text',
  subtitle: (one) => `${one.isMine ? 'to' : 'from'} ${one.thread}`,
  made: (one) => one.at,
  lines: (one) => [
    { as: 'soft', text: `${one.isMine ? 'to' : 'from'} ${one.thread}` },
    { as: 'moment', at: one.at },
    { as: 'long', text: one.text },
    ...one.attachments.map((name) => ({ as: 'soft' as const, text: `with ${name}` })),
  ],
  table: {
    holds: (columns) => columns.has(TEXT, WITH),
    examples: [
      ['sms', '_id', 'address', 'date', 'body', 'type'],
      ['chat', 'thread', 'text', 'sent_at', 'is_from_me'],
      ['m', 'recipient', 'message', 'timestamp'],
    ],
    read: (row) => {
      const direction = row.direction()
      return {
        thread: row.text(WITH),
        isMine: row.truth(MINE) ?? (direction === null ? null : direction === 'out'),
        text: row.text(TEXT),
        at: row.when(WHEN),
        attachments: row.parts(ATTACHMENTS, /[;\n|]/, 100),
      }
    },
    isEmpty: (one) => one.text === '' && one.attachments.length === 0,
  },
  sample: {
    kind: 'message',
    thread: 'Alma Tarn',
    isMine: false,
    text: 'The key is under the pot',
    at: '2026-11-07T17:20:00.000Z',
    attachments: ['pot.jpg'],
  },
})
