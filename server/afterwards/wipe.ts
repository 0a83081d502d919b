import { setImmediate as turn } from 'node:timers/promises'
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { eq, sql } from 'drizzle-orm'
import type { WipeRecord } from '../../core/afterwards/record'
import { withoutTexts } from '../../core/cases/facts/texts'
import { Case } from '../../core/cases/shape/case'
import { renumberedCase } from '../../core/exchange/renumbered'
import { DAY_MS } from '../../core/cases/shape/moment'
import type { Wiped, WipedPart } from '../../core/cases/shape/wiping'
import { codeOfIdentity, readStored, updateCase, type Handle, type StoredCase } from '../cases/rows'
import { writing } from '../cases/writing/writing'
import { destroyCaseKey } from '../db/history/keys'
import {
  attachments,
  batches,
  caseLinks,
  cases,
  clients,
  fetches,
  handouts,
  papers,
  plans,
  safetyCopies,
  secrets,
  shelfJobs,
} from '../db/tables'
import { backupPlace } from '../safekeeping/settings'
import { refused } from '../failure'
import { logFault } from '../log-fault'
import { standStill } from '../handover/stand-still'
import { forgetThumbs } from '../listings/preview'
import { forgetHappenings } from '../search/index-cases'
import { logSecurity } from '../people/security-log'
import { readPlaybook } from '../settings'
import { requireShelf } from '../shelf/place'
import { copying } from '../shelf/shelf'
import { handingOut } from '../shelf/hand-out-state'
import { caseFolder } from '../links/case-folders'
import { heldFiles, heldRows, picturesOf, sheetsOf, sizeOfAll, unlinkAll } from './held'
import { addToLedger, addMissingWipes, readLedger, type WipeLine } from '../../disk/wipe-ledger'
import { foldLog } from './fold-log'
import { keepRecord, knownWipes, markDone, unfinished, type StoredRecord } from './records'

interface Wish {
  readonly part: WipedPart
  /** null where its date came */
  readonly by: string | null
  readonly why: WipeRecord['why']
  /** ms */
  readonly now: number
}

/**
 * Wipes one part of a case. First, in one transaction, the case loses its texts, the history its key, and the record is
 * written; from then on nothing opens what is left. Then items and files go, and the log of the database is folded in. A crash
 * in between is made up for at the next start. Whether it may be wiped is decided before this.
 */
export async function wipeCase(code: string, wish: Wish): Promise<void> {
  const { database } = useLantern()
  const before = readStored(database, code)
  if (wish.part === 'data') {
    await requireShelf(code)
    await haltAll(before, wish)
  }
  if (wish.part === 'person' && !before.case.wiping.data) await wipeCase(code, { ...wish, part: 'data' })
  const files = await heldFiles(database, before.id, code)
  const paths = wish.part === 'data' ? [...files.folders, ...files.own] : []
  const pictures = pathsOf(code, database.select().from(attachments).where(picturesOf(before.id, wish.part)).all())
  const size = await sizeOfAll([...paths, ...pictures])
  const done = writing(database, (handle) => {
    const now = readStored(handle, code)
    if (now.case.wiping[wish.part]) return null
    const left = [...paths, ...pictures]
    const record = recordOf(handle, now, wish, { ...size, outside: files.outside.length, left })
    logSecurity(handle, { event: WIPED[wish.part], by: wish.by, about: code }, wish.now)
    return { record, case: scrub(handle, now, wish) }
  })
  if (!done) return
  noteInLedger(done.case, wish.part, done.record.at)
  await finish(done.record)
}

const pathsOf = (code: string, rows: readonly { file: string }[]) =>
  rows.map(({ file }) => join(caseFolder('attachments', code), file))

function noteInLedger({ identity, code }: Case, part: WipedPart, at: string): void {
  if (identity === null) return
  addToLedger(dataFolder(), { identity, code, part, at })
  const place = backupPlace(useLantern().database)
  // Where the disk of the backups is not connected, the next backup brings the list up to date.
  if (place !== null && existsSync(place))
    try {
      addMissingWipes(dataFolder(), place)
    } catch (error) {
      logFault(error, code)
    }
}

/** How the security log calls it: by the code of the case, never by a name. */
const WIPED = { data: 'data-wiped', person: 'name-wiped' } as const

/** How long work on a case may take to stop where it is. */
const HALT_MS = 30_000

/** Stops what is under way in a case; throws a Failure where that does not end. */
async function haltAll({ id, case: { code } }: StoredCase, { by, now }: Wish): Promise<void> {
  await standStill(code, { by: by ?? 'Russet Lantern', now })
  const until = Date.now() + HALT_MS
  while (copying.has(id) || handingOut.has(id)) {
    if (Date.now() > until) throw refused('Files of this case are still being copied. Try again once that has ended.')
    await new Promise((done) => setTimeout(done, 100))
  }
}

function recordOf(
  handle: Handle,
  { id, case: { code } }: StoredCase,
  { part, by, why, now }: Wish,
  { files, bytes, outside, left }: { files: number; bytes: number; outside: number; left: readonly string[] },
): StoredRecord {
  const { backupDays } = readPlaybook(useLantern().database).shop.papers
  const record = {
    code,
    part,
    by,
    why,
    at: new Date(now).toISOString(),
    counts: { files, bytes, ...heldRows(handle, id, part) },
    outside,
    backupsUntil: new Date(now + backupDays * DAY_MS).toISOString(),
  }
  return keepRecord(handle, id, record, left)
}

/** Everything of a part that is quickly gone from the database: texts, links, sheets, pictures, secrets, and the key. */
function scrub(handle: Handle, stored: StoredCase, { part, by, why, now }: Wish): Case {
  const { id } = stored
  handle.delete(secrets).where(eq(secrets.caseId, id)).run()
  // Its line on the counter names the client.
  handle.delete(plans).where(eq(plans.caseId, id)).run()
  handle.delete(papers).where(sheetsOf(id, part)).run()
  handle.delete(attachments).where(picturesOf(id, part)).run()
  if (part === 'data')
    for (const table of [caseLinks, batches, fetches, safetyCopies, handouts, shelfJobs])
      handle.delete(table).where(eq(table.caseId, id)).run()
  forgetHappenings(handle, id)
  destroyCaseKey(handle, id)
  const wiped: Wiped = { at: new Date(now).toISOString(), by, why: why === 'wish' ? 'wish' : 'date' }
  const isPerson = part === 'person'
  const bare = withoutTexts(stored.case, part)
  const { client, wiping } = bare
  const after = Case.parse({
    // Signatures and papers go with the person: they are named by nothing then.
    ...(isPerson ? renumberedCase(bare, new Map()) : bare),
    client: isPerson ? { ...client, id: null } : client,
    wiping: { ...wiping, [part]: wiped },
  })
  const says = part === 'data' ? 'wiped the data of the case' : 'wiped the name of the client'
  const happening = { kind: 'wiped' as const, fact: part, was: null, is: { says } }
  updateCase(handle, stored, after, [happening], { by: by ?? 'automatic', now })
  if (isPerson && client.id !== null) dropCard(handle, client.id)
  return after
}

/** The card of a client whom no case names any more. */
function dropCard(handle: Handle, client: string): void {
  const other = handle.select({ id: cases.id }).from(cases).where(eq(cases.clientId, client)).get()
  if (!other) handle.delete(clients).where(eq(clients.id, client)).run()
}

/** Rows that are removed at once: each removal is overwritten, and others wait meanwhile. */
const ROWS_AT_ONCE = 400

/** What takes long: items in their thousands, and files. Can be done again at any time until it is done. */
async function finish(record: StoredRecord): Promise<void> {
  const { database } = useLantern()
  const { caseId } = record
  if (record.part === 'data') {
    forgetThumbs()
    const ofListing = sql`select id from listings where case_id = ${caseId}`
    await removeAll(
      sql`delete from finds where id in (select id from finds where listing_id in (${ofListing}) limit ${ROWS_AT_ONCE})`,
    )
    await removeAll(sql`delete from pass_notes where id in (select pass_notes.id from pass_notes join passes on passes.id = pass_id
      where passes.case_id = ${caseId} limit ${ROWS_AT_ONCE})`)
    await removeAll(sql`delete from listings where case_id = ${caseId}`)
    await removeAll(
      sql`delete from shelf_items where id in (select id from shelf_items where case_id = ${caseId} limit ${ROWS_AT_ONCE})`,
    )
  }
  await unlinkAll(record.left)
  if (record.part === 'person') await unlinkAll([caseFolder('attachments', record.code)])
  markDone(database, record)
  foldLog(database)
}

async function removeAll(statement: Parameters<Handle['run']>[0]): Promise<void> {
  const { database } = useLantern()
  while (database.run(statement).changes > 0) await turn()
}

const keyOf = ({ identity, part }: Pick<WipeLine, 'identity' | 'part'>) => `${identity} ${part}`

/** Finishes wipes that a crash or a full disk cut off, and adds to the ledger what is missing there. */
export async function settleWipes(): Promise<void> {
  const { database } = useLantern()
  for (const record of unfinished(database)) await finish(record).catch((error) => logFault(error, record.code))
  const inLedger = new Set(readLedger(dataFolder()).map(keyOf))
  for (const line of knownWipes(database)) if (!inLedger.has(keyOf(line))) addToLedger(dataFolder(), line)
}

/** How many wipes of the list have not been done in this database. */
export function wipesLeft(): number {
  const { database } = useLantern()
  const done = new Set(knownWipes(database).map(keyOf))
  return readLedger(dataFolder()).filter(
    (line) => !done.has(keyOf(line)) && codeOfIdentity(database, line.identity) !== null,
  ).length
}

/** Before the shop opens: wipes that a database from an older backup does not know are done again, and others finished. */
export async function repeatWipes(): Promise<void> {
  const { database, clock } = useLantern()
  await settleWipes().catch((error) => logFault(error))
  const inDatabase = new Set(knownWipes(database).map(keyOf))
  for (const line of readLedger(dataFolder())) {
    const code = inDatabase.has(keyOf(line)) ? null : codeOfIdentity(database, line.identity)
    const wish = { part: line.part, by: null, why: 'restored', now: clock.now() } as const
    if (code !== null) await wipeCase(code, wish).catch((error) => logFault(error, code))
  }
}
