import { index, integer, real, sqliteTable, text } from 'drizzle-orm/sqlite-core'
import { ROLES } from '../../core/people/person'
import { HISTORY_KINDS } from '../../core/cases/history'

export const people = sqliteTable('people', {
  id: integer('id').primaryKey({ autoIncrement: true }),
  signIn: text('sign_in').notNull().unique(),
  name: text('name').notNull(),
  role: text('role', { enum: ROLES }).notNull(),
  passwordHash: text('password_hash').notNull(),
  createdAt: text('created_at').notNull(),
})

export const clients = sqliteTable(
  'clients',
  {
    id: text('id').primaryKey(),
    name: text('name').notNull(),
    phone: text('phone'),
    phoneDigits: text('phone_digits').notNull().default(''),
    mail: text('mail'),
    updatedAt: text('updated_at').notNull(),
  },
  (table) => [index('clients_by_digits').on(table.phoneDigits), index('clients_by_name').on(table.name)],
)

/** The case itself is one document, validated by the core; the columns beside it are for finding it. */
export const cases = sqliteTable(
  'cases',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    code: text('code').notNull().unique(),
    version: integer('version').notNull(),
    body: text('body').notNull(),
    state: text('state').notNull(),
    clientId: text('client_id').references(() => clients.id),
    clientName: text('client_name').notNull().default(''),
    phoneDigits: text('phone_digits').notNull().default(''),
    updatedAt: text('updated_at').notNull(),
  },
  (table) => [index('cases_by_state').on(table.state), index('cases_by_client').on(table.clientId)],
)

/** Every change to every case, never edited and never removed. */
export const history = sqliteTable(
  'history',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    caseId: integer('case_id')
      .notNull()
      .references(() => cases.id),
    version: integer('version').notNull(),
    at: text('at').notNull(),
    by: text('by').notNull(),
    kind: text('kind', { enum: HISTORY_KINDS }).notNull(),
    fact: text('fact').notNull(),
    was: text('was').notNull(),
    is: text('is').notNull(),
  },
  (table) => [index('history_by_case').on(table.caseId, table.version)],
)

export const settings = sqliteTable('settings', { key: text('key').primaryKey(), value: text('value').notNull() })

/** The plan of each case as it was last made, and until when it holds; made anew from the case at any time. */
export const plans = sqliteTable(
  'plans',
  {
    caseId: integer('case_id')
      .primaryKey()
      .references(() => cases.id),
    caseVersion: integer('case_version').notNull(),
    /** which state of the playbook it was made with */
    revision: integer('revision').notNull(),
    madeAt: text('made_at').notNull(),
    until: text('until').notNull(),
    depth: text('depth', { enum: ['order', 'whole'] }).notNull(),
    /** in money: what waiting a day costs */
    waits: real('waits').notNull(),
    /** ms; far in the future where nothing closes */
    closes: integer('closes').notNull(),
    body: text('body').notNull(),
    summary: text('summary').notNull(),
  },
  (table) => [
    index('plans_by_waits').on(table.waits),
    index('plans_by_closes').on(table.closes),
    index('plans_by_until').on(table.until),
  ],
)

/** What each ended run taught, for the odds. */
export const outcomes = sqliteTable('outcomes', {
  id: integer('id').primaryKey({ autoIncrement: true }),
  caseId: integer('case_id')
    .notNull()
    .references(() => cases.id),
  runId: text('run_id').notNull(),
  at: text('at').notNull(),
  body: text('body').notNull(),
})
