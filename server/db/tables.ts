import { sql } from 'drizzle-orm'
import { blob, index, integer, primaryKey, real, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core'
import type { CaseLine } from '../../core/ledger/case-line'
import type { RunOutcome } from '../../core/ranking/situation/evidence'
import { ROLES } from '../../core/people/person'
import { SECURITY_EVENTS } from '../../core/people/security-log'
import { HISTORY_KINDS } from '../../core/cases/telling/history'
import { LISTING_STATES } from '../../core/bench/bench'
import { PRESENCES } from '../../core/bench/item'
import { COPYING_STATES, HANDOUT_LAYOUTS, SHELF_ITEM_STATES } from '../../core/bench/shelf'
import { DATA_TYPES } from '../../core/cases/shape/data-types'
import { WHOLENESS } from '../../core/files/wholeness'
import { PASS_STATES } from '../../core/bench/medium'
import { ATTACHMENT_KINDS } from '../../core/handover/attachment'
import { PAPER_KINDS } from '../../core/handover/paper'
import { SECRET_KINDS } from '../../core/bench/secret'
import { WIPED_PARTS } from '../../core/cases/shape/wiping'

export const people = sqliteTable('people', {
  id: integer('id').primaryKey({ autoIncrement: true }),
  signIn: text('sign_in').notNull().unique(),
  name: text('name').notNull(),
  role: text('role', { enum: ROLES }).notNull(),
  passwordHash: text('password_hash').notNull(),
  createdAt: text('created_at').notNull(),
})

/** The sessions. Of the secret in the cookie only a digest is stored. */
export const sessions = sqliteTable(
  'sessions',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    digest: text('digest').notNull().unique(),
    personId: integer('person_id')
      .notNull()
      .references(() => people.id, { onDelete: 'cascade' }),
    /** ms */
    begun: integer('begun').notNull(),
    /** ms: when the session was last used */
    used: integer('used').notNull(),
    address: text('address').notNull(),
    agent: text('agent').notNull(),
  },
  (table) => [index('sessions_by_person').on(table.personId)],
)

/** Browsers in which somebody has signed in before, by a digest of the secret that each keeps. */
export const knownDevices = sqliteTable(
  'known_devices',
  {
    digest: text('digest').notNull(),
    personId: integer('person_id')
      .notNull()
      .references(() => people.id, { onDelete: 'cascade' }),
    /** ms */
    used: integer('used').notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.digest, table.personId] }),
    index('known_devices_by_person').on(table.personId, table.used),
  ],
)

/** Sign-ins, refusals and changes by owners, without secrets and without anything about a client. */
export const securityLog = sqliteTable(
  'security_log',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    at: text('at').notNull(),
    event: text('event', { enum: SECURITY_EVENTS }).notNull(),
    /** the name of the person who did it, where it is known */
    by: text('by'),
    /** the person or thing that it was done to */
    about: text('about'),
    address: text('address'),
    /** how often within a minute: a flood is one row */
    count: integer('count').notNull().default(1),
  },
  (table) => [index('security_log_by_time').on(table.at)],
)

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
    /** only owners see it until the stop is lifted */
    isStopped: integer('is_stopped', { mode: 'boolean' }).notNull().default(false),
    /** names the case in every shop that it comes to */
    identity: text('identity').unique(),
    /** ms: from when on the periods after the return are counted; null while the case goes on, and once all of it was wiped */
    endedAt: integer('ended_at'),
    isDataWiped: integer('is_data_wiped', { mode: 'boolean' }).notNull().default(false),
    clientId: text('client_id').references(() => clients.id),
    clientName: text('client_name').notNull().default(''),
    phoneDigits: text('phone_digits').notNull().default(''),
    updatedAt: text('updated_at').notNull(),
  },
  (table) => [
    // Everything that the counter asks of each case, beside its document.
    index('cases_by_state').on(table.state, table.isStopped, table.version),
    index('cases_by_client').on(table.clientId),
    index('cases_by_end').on(table.endedAt),
  ],
)

/**
 * Every change to every case, in a chain of keyed digests. Triggers refuse to change or remove a row. What an entry says
 * about the client is encrypted with the key of its case; the other columns outlive that key.
 */
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
    /** written before there was a chain */
    isEarlier: integer('is_earlier', { mode: 'boolean' }).notNull().default(false),
    /** SHA-256 of salt and content */
    content: text('content').notNull(),
    sealed: blob('sealed', { mode: 'buffer' }).notNull(),
    digest: text('digest').notNull(),
  },
  (table) => [index('history_of_case').on(table.caseId, table.version)],
)

/** The key of each case, encrypted with the shop's key, which is not in the database. Gone when the case was wiped. */
export const caseKeys = sqliteTable('case_keys', {
  caseId: integer('case_id')
    .primaryKey()
    .references(() => cases.id),
  sealed: blob('sealed', { mode: 'buffer' }).notNull(),
})

export const settings = sqliteTable('settings', { key: text('key').primaryKey(), value: text('value').notNull() })

/**
 * The plan of each case as last computed, and until when it holds; it can be computed again from the case at any time.
 */
export const plans = sqliteTable(
  'plans',
  {
    caseId: integer('case_id')
      .primaryKey()
      .references(() => cases.id),
    caseVersion: integer('case_version').notNull(),
    /** the version of the playbook that it was computed with */
    revision: integer('revision').notNull(),
    madeAt: text('made_at').notNull(),
    until: text('until').notNull(),
    depth: text('depth', { enum: ['order', 'whole'] }).notNull(),
    /** what waiting a day costs, in money */
    waits: real('waits').notNull(),
    /** ms; far in the future where nothing closes */
    closes: integer('closes').notNull(),
    body: text('body').notNull(),
    summary: text('summary').notNull(),
  },
  (table) => [
    index('plans_by_waits').on(sql`${table.waits} desc`, table.closes, sql`${table.caseId} desc`),
    index('plans_by_closes').on(table.closes),
    index('plans_by_until').on(table.until),
  ],
)

/**
 * Every ended run in figures, for the odds and the ledger; written with its case, and made again from the cases at any time. It
 * says nothing about a client, so that it outlives the wiping of its case.
 */
export const endedRuns = sqliteTable(
  'ended_runs',
  {
    caseId: integer('case_id')
      .notNull()
      .references(() => cases.id),
    run: text('run').notNull(),
    /** ms */
    ended: integer('ended').notNull(),
    /** what the odds learn from it; null where it decided nothing */
    outcome: text('outcome', { mode: 'json' }).$type<RunOutcome>(),
    kind: text('kind').notNull(),
    platform: text('platform').notNull(),
    device: text('device').notNull(),
    type: text('type').notNull(),
    loss: text('loss').notNull(),
    by: text('by').notNull(),
    cause: text('cause'),
    chance: real('chance'),
    place: integer('place'),
    isFirst: integer('is_first', { mode: 'boolean' }).notNull(),
    back: integer('back').notNull(),
    whole: integer('whole').notNull(),
    unverified: integer('unverified').notNull(),
    /** minutes */
    handsOn: real('hands_on').notNull(),
    waiting: real('waiting').notNull(),
    /** money */
    spent: real('spent').notNull(),
    charged: real('charged').notNull(),
    leftOut: text('left_out'),
    isTraining: integer('is_training', { mode: 'boolean' }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.caseId, table.run] }),
    index('ended_runs_by_time').on(table.ended),
    index('ended_runs_by_kind').on(table.kind, table.ended),
  ],
)

/** Every case in figures, for the ledger; made in the same way. */
export const caseLines = sqliteTable(
  'case_lines',
  {
    caseId: integer('case_id')
      .primaryKey()
      .references(() => cases.id),
    /** ms */
    logged: integer('logged'),
    state: text('state').notNull(),
    /** ms: when it was ready for the client, since it was last on the bench */
    done: integer('done'),
    body: text('body', { mode: 'json' }).$type<CaseLine>().notNull(),
  },
  (table) => [index('case_lines_by_time').on(table.logged), index('case_lines_by_state').on(table.state)],
)

/** The playbook as it was after each change to its routes and weights: who made it, when and why. */
export const playbookVersions = sqliteTable('playbook_versions', {
  id: integer('id').primaryKey({ autoIncrement: true }),
  at: text('at').notNull(),
  by: text('by').notNull(),
  reason: text('reason').notNull(),
  /** the whole playbook, compressed */
  body: blob('body', { mode: 'buffer' }).notNull(),
})

/** The simulated devices, accounts and computers, in their present state. */
export const standIns = sqliteTable('stand_ins', {
  id: text('id').primaryKey(),
  place: integer('place').notNull(),
  version: integer('version').notNull(),
  body: text('body').notNull(),
})

/** Which link is attached to which part of a case. */
export const caseLinks = sqliteTable(
  'case_links',
  {
    caseId: integer('case_id')
      .notNull()
      .references(() => cases.id),
    /** id of the device or copy in the case */
    part: text('part').notNull(),
    link: text('link').notNull(),
    at: text('at').notNull(),
    by: text('by').notNull(),
  },
  (table) => [primaryKey({ columns: [table.caseId, table.part] }), index('case_links_by_link').on(table.link)],
)

/** One listing of a keep of a link: what was in it at that time. */
export const listings = sqliteTable(
  'listings',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    caseId: integer('case_id')
      .notNull()
      .references(() => cases.id),
    runId: text('run_id'),
    link: text('link').notNull(),
    keep: text('keep').notNull(),
    title: text('title').notNull(),
    at: text('at').notNull(),
    by: text('by').notNull(),
    state: text('state', { enum: LISTING_STATES }).notNull(),
    says: text('says').notNull().default(''),
  },
  (table) => [index('listings_by_case').on(table.caseId)],
)

/** The items of a listing, one a row. */
export const finds = sqliteTable(
  'finds',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    listingId: integer('listing_id')
      .notNull()
      .references(() => listings.id, { onDelete: 'cascade' }),
    item: text('item').notNull(),
    name: text('name').notNull(),
    extension: text('extension').notNull(),
    place: text('place').notNull(),
    type: text('type', { enum: DATA_TYPES }).notNull(),
    bytes: integer('bytes').notNull(),
    made: text('made'),
    /** the day in the shop's zone on which it was made */
    day: text('day'),
    goneAt: text('gone_at'),
    presence: text('presence', { enum: PRESENCES }).notNull(),
    whole: text('whole', { enum: WHOLENESS }).notNull(),
    /** the wanted set that it matches */
    wanted: text('wanted'),
    isSelected: integer('is_selected', { mode: 'boolean' }).notNull().default(false),
    /** of an item on a medium: its first byte */
    startByte: integer('start_byte'),
  },
  (table) => [
    index('finds_by_listing').on(table.listingId, sql`${table.made} desc`),
    index('finds_selected').on(table.listingId, table.isSelected),
    index('finds_by_day').on(table.listingId, table.day, sql`${table.made} desc`),
    index('finds_by_item').on(table.item),
    index('finds_of_listing').on(table.listingId),
  ],
)

/** Everything that is known of a found item; kept in a separate table to keep counts fast. */
export const findBodies = sqliteTable('find_bodies', {
  findId: integer('find_id')
    .primaryKey()
    .references(() => finds.id, { onDelete: 'cascade' }),
  body: text('body').notNull(),
})

/** Scans of media: the queue, and how far each has come. */
export const passes = sqliteTable(
  'passes',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    caseId: integer('case_id')
      .notNull()
      .references(() => cases.id),
    listingId: integer('listing_id')
      .notNull()
      .references(() => listings.id, { onDelete: 'cascade' }),
    link: text('link').notNull(),
    /** whether the medium is the case's own device: what is present on it is not lost */
    isOwn: integer('is_own', { mode: 'boolean' }).notNull(),
    options: text('options').notNull(),
    state: text('state', { enum: PASS_STATES }).notNull(),
    says: text('says').notNull().default(''),
    progress: text('progress'),
    /** the word of the job that works on it: a job that finds another word here was replaced, and stops */
    claim: text('claim'),
    /** how often its job crashed since somebody last started or resumed it */
    crashes: integer('crashes').notNull().default(0),
    /** size and time of the image when the scan began; with another stamp it is another medium */
    stamp: text('stamp').notNull(),
    /** of the medium */
    bytes: integer('bytes').notNull(),
    sha256: text('sha256'),
    by: text('by').notNull(),
    queued: text('queued').notNull(),
    begun: text('begun'),
    ended: text('ended'),
  },
  (table) => [
    index('passes_by_case').on(table.caseId),
    index('passes_by_state').on(table.state),
    index('passes_by_listing').on(table.listingId),
  ],
)

/** The checkpoints of a scan, written as it runs and deleted once it has ended. */
export const passNotes = sqliteTable(
  'pass_notes',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    passId: integer('pass_id')
      .notNull()
      .references(() => passes.id, { onDelete: 'cascade' }),
    body: text('body').notNull(),
  },
  (table) => [index('pass_notes_by_pass').on(table.passId)],
)

/** The items on a case's shelf: copied, and read back. */
export const shelfItems = sqliteTable(
  'shelf_items',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    caseId: integer('case_id')
      .notNull()
      .references(() => cases.id),
    runId: text('run_id'),
    /** its source: the link, and the keep and item in it */
    link: text('link').notNull(),
    item: text('item').notNull(),
    name: text('name').notNull(),
    type: text('type', { enum: DATA_TYPES }).notNull(),
    /** relative to the case's shelf, with forward slashes */
    path: text('path').notNull(),
    bytes: integer('bytes').notNull(),
    sha256: text('sha256'),
    wanted: text('wanted'),
    whole: text('whole', { enum: WHOLENESS }).notNull(),
    state: text('state', { enum: SHELF_ITEM_STATES }).notNull(),
    says: text('says').notNull().default(''),
    at: text('at'),
    body: text('body').notNull(),
  },
  (table) => [
    index('shelf_by_case').on(table.caseId, table.state),
    index('shelf_by_item').on(table.caseId, table.link, table.item),
  ],
)

/** Copying to a shelf: one job each time that somebody starts it. */
export const shelfJobs = sqliteTable('shelf_jobs', {
  id: integer('id').primaryKey({ autoIncrement: true }),
  caseId: integer('case_id')
    .notNull()
    .references(() => cases.id),
  link: text('link').notNull(),
  state: text('state', { enum: COPYING_STATES }).notNull(),
  says: text('says').notNull().default(''),
  by: text('by').notNull(),
  begun: text('begun').notNull(),
  ended: text('ended'),
})

/** Copies of everything that a device held, made before a step that destroys something. */
export const safetyCopies = sqliteTable('safety_copies', {
  id: integer('id').primaryKey({ autoIncrement: true }),
  caseId: integer('case_id')
    .notNull()
    .references(() => cases.id),
  link: text('link').notNull(),
  at: text('at').notNull(),
  by: text('by').notNull(),
  /** the fingerprint of what the device held then */
  mark: text('mark').notNull(),
  path: text('path').notNull(),
  items: integer('items').notNull(),
  bytes: integer('bytes').notNull(),
  sha256: text('sha256').notNull(),
  verifiedAt: text('verified_at'),
})

/** Backups being fetched from an account or a computer. */
export const fetches = sqliteTable('fetches', {
  id: integer('id').primaryKey({ autoIncrement: true }),
  caseId: integer('case_id')
    .notNull()
    .references(() => cases.id),
  link: text('link').notNull(),
  keep: text('keep').notNull(),
  title: text('title').notNull(),
  path: text('path').notNull(),
  total: integer('total').notNull(),
  sha256: text('sha256'),
  state: text('state', { enum: COPYING_STATES }).notNull(),
  says: text('says').notNull().default(''),
})

/** Files that belong to one case as a link: fetched by hand and copied here or named, or a safety copy that was made. */
export const batches = sqliteTable(
  'batches',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    caseId: integer('case_id')
      .notNull()
      .references(() => cases.id),
    runId: text('run_id'),
    title: text('title').notNull(),
    /** of the folder or archive on this machine */
    path: text('path').notNull(),
    kind: text('kind', { enum: ['by-hand', 'safety-copy'] }).notNull(),
    /** the name of its folder among those of this case, where the files were copied here; null for a named folder */
    folder: text('folder'),
    at: text('at').notNull(),
    by: text('by').notNull(),
  },
  (table) => [index('batches_by_case').on(table.caseId)],
)

/** Copies of a shelf onto a client's medium or into a folder, one job each time that somebody starts one. */
export const handouts = sqliteTable(
  'handouts',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    caseId: integer('case_id')
      .notNull()
      .references(() => cases.id),
    /** the folder that is made, once it is whole */
    path: text('path').notNull(),
    layout: text('layout', { enum: HANDOUT_LAYOUTS }).notNull(),
    state: text('state', { enum: COPYING_STATES }).notNull(),
    says: text('says').notNull().default(''),
    done: integer('done').notNull().default(0),
    total: integer('total').notNull(),
    by: text('by').notNull(),
    begun: text('begun').notNull(),
  },
  (table) => [index('handouts_by_case').on(table.caseId)],
)

/** Pictures, signatures and papers of a case; the bytes are in files. */
export const attachments = sqliteTable(
  'attachments',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    caseId: integer('case_id')
      .notNull()
      .references(() => cases.id),
    kind: text('kind', { enum: ATTACHMENT_KINDS }).notNull(),
    /** the part of the case that it belongs to: a device, a copy, a run; empty for the case itself */
    part: text('part').notNull(),
    name: text('name').notNull(),
    mime: text('mime').notNull(),
    bytes: integer('bytes').notNull(),
    sha256: text('sha256').notNull(),
    /** the name of its file among those of the case */
    file: text('file').notNull(),
    at: text('at').notNull(),
    by: text('by').notNull(),
  },
  (table) => [index('attachments_by_case').on(table.caseId)],
)

/** What was printed for a client, word for word, with the head of the history at that moment. */
export const papers = sqliteTable(
  'papers',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    caseId: integer('case_id')
      .notNull()
      .references(() => cases.id),
    kind: text('kind', { enum: PAPER_KINDS }).notNull(),
    /** unique over all cases; receipts for money are numbered without gaps */
    number: text('number').notNull().unique(),
    body: text('body').notNull(),
    head: text('head').notNull(),
    at: text('at').notNull(),
    by: text('by').notNull(),
  },
  (table) => [index('papers_by_case').on(table.caseId, table.kind)],
)

/** Passcodes and passwords that clients left for a run, encrypted with a key that is not in the database. */
export const secrets = sqliteTable(
  'secrets',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    caseId: integer('case_id')
      .notNull()
      .references(() => cases.id),
    /** the device or copy that it opens */
    part: text('part').notNull(),
    kind: text('kind', { enum: SECRET_KINDS }).notNull(),
    sealed: blob('sealed', { mode: 'buffer' }).notNull(),
    at: text('at').notNull(),
    by: text('by').notNull(),
  },
  (table) => [uniqueIndex('secrets_by_part').on(table.caseId, table.part, table.kind)],
)

/** That parts of cases were wiped. A record holds no name but that of who did it. */
export const wipes = sqliteTable(
  'wipes',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    caseId: integer('case_id')
      .notNull()
      .references(() => cases.id),
    part: text('part', { enum: WIPED_PARTS }).notNull(),
    at: text('at').notNull(),
    by: text('by'),
    body: text('body').notNull(),
  },
  (table) => [index('wipes_by_case').on(table.caseId)],
)

/** The secret address at which each person's calendar reads their dates: only a digest of it is stored. */
export const feeds = sqliteTable('feeds', {
  personId: integer('person_id')
    .primaryKey()
    .references(() => people.id, { onDelete: 'cascade' }),
  digest: text('digest').notNull().unique(),
  at: text('at').notNull(),
})
