import { z } from 'zod'
import { NAME, PHONE, REMARK, type ColumnNames } from '../columns'
import { body, line } from '../fields'
import { recordKind } from '../record-kind'

const GIVEN: ColumnNames = ['givenname', 'firstname', 'first', 'forename']
const FAMILY: ColumnNames = ['familyname', 'lastname', 'last', 'surname']
const ORGANISATION: ColumnNames = ['organisation', 'organization', 'company', 'employer', 'org']
const MAIL: ColumnNames = ['mail', 'email', 'emailaddress', 'mail1', 'mail2', 'email1', 'email2']

const shape = z.object({
  kind: z.literal('contact'),
  name: line,
  phones: z.array(line).max(50).default([]),
  mails: z.array(line).max(50).default([]),
  organisation: line.default(''),
  note: body.default(''),
})

/** Somebody in an address book. */
export const contact = recordKind(shape, {
  type: 'contacts',
  savedAs: 'vcard',
  title: (one) => one.name || one.organisation || one.phones[0] || one.mails[0] || 'no name',
  subtitle: (one) => [...one.phones, ...one.mails].join(', '),
  made: () => null,
  lines: (one) => [
    { as: 'soft', text: one.organisation },
    ...[...one.phones, ...one.mails].map((text) => ({ as: 'figure' as const, text })),
    { as: 'long', text: one.note },
  ],
  table: {
    holds: (columns) =>
      (columns.has(NAME) || columns.has(GIVEN) || columns.has(FAMILY)) && (columns.has(PHONE) || columns.has(MAIL)),
    examples: [
      ['people', 'given_name', 'family_name', 'phone_1', 'email'],
      ['Contacts', 'display_name', 'number', 'note'],
      ['x', 'name', 'mobile', 'company'],
    ],
    read: (row) => ({
      name: row.text(NAME) || [row.text(GIVEN), row.text(FAMILY)].filter((part) => part !== '').join(' '),
      phones: row.texts(PHONE),
      mails: row.texts(MAIL),
      organisation: row.text(ORGANISATION),
      note: row.text(REMARK),
    }),
    isEmpty: (one) => one.name === '' && one.phones.length === 0 && one.mails.length === 0,
  },
  sample: {
    kind: 'contact',
    name: 'Alma Tarn',
    phones: ['01632 960111'],
    mails: ['alma@tarn.example'],
    organisation: 'Lock keepers',
    note: 'Rings twice.',
  },
})
