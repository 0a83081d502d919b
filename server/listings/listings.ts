import { runAt } from '../../core/cases/shape/open-runs'
import { EVERYTHING, isListed } from '../../core/bench/next'
import { partKindOf } from '../../core/bench/part'
import { and, eq, notExists } from 'drizzle-orm'
import { linkFailure } from '../../core/bench/fault'
import type { LinkItem } from '../../core/bench/item'
import type { Keep } from '../../core/bench/keep'
import type { Link } from '../../core/bench/link'
import { readStored, type Writer } from '../cases/rows'
import { listings, passes } from '../db/tables'
import { Failure, notFound, refused } from '../failure'
import { readPlaybook } from '../settings'
import { carrySelection } from './carry-selection'
import { requireAttached } from '../links/case-links'
import { rowOf, type Judging } from './find-row'
import { faultWords } from '../links/link-failures'
import { linkById } from '../links/links'
import { requireConsent } from '../cases/consent'
import { readFileAs } from './preview'
import { itemsOfRows } from './rows-of-item'
import { insertFinds, type NewFind } from './store-finds'

/** All keeps of a link at once, except backups and earlier states, of which one is chosen. */
const MAX_ITEMS = 500_000

/** Starts to list a keep; returns the number of the listing at once and continues by itself. */
export async function startListing(code: string, linkId: string, keepId: string, writer: Writer): Promise<number> {
  const { database } = useLantern()
  const stored = readStored(database, code)
  requireConsent(stored)
  const { part } = requireAttached(stored, linkId)
  const link = await linkById(linkId)
  const state = await link.state()
  const keeps = chosenKeeps(state.keeps, keepId)
  const title = keepId === EVERYTHING ? 'All of its contents' : keeps[0]!.title
  const { zone } = readPlaybook(database).shop
  const run = runAt(stored.case, part)
  const listingId = database.transaction((transaction) => {
    return transaction
      .insert(listings)
      .values({
        caseId: stored.id,
        runId: run?.id ?? null,
        link: linkId,
        keep: keepId,
        title,
        at: new Date(writer.now).toISOString(),
        by: writer.by,
        state: 'listing',
      })
      .returning({ id: listings.id })
      .get().id
  })
  // Continues while the request is answered; its outcome is stored in its row.
  void listAll(listingId, link, keeps, {
    ofCase: stored.case,
    isOwn: partKindOf(stored.case, part) === 'device' && state.kind === 'phone',
    isFetched: state.kind === 'batch',
    zone,
  }).then(
    (warnings) => end(listingId, 'whole', warnings.join(' ')),
    (error) => end(listingId, 'broken-off', faultWords(error)),
  )
  return listingId
}

function chosenKeeps(keeps: readonly Keep[], keepId: string): Keep[] {
  if (keepId === EVERYTHING) {
    const all = keeps.filter((one) => isListed(one.kind) && one.closed === null)
    if (all.length === 0) throw refused('Nothing here can be listed yet.')
    return all
  }
  const one = keeps.find((keep) => keep.id === keepId)
  if (!one) throw notFound('such place on it')
  if (one.closed !== null) throw refused(one.closed)
  return [one]
}

async function listAll(listingId: number, link: Link, keeps: readonly Keep[], judging: Judging): Promise<string[]> {
  const warnings: string[] = []
  let count = 0
  for (const keep of keeps) {
    const all: LinkItem[] = []
    for (let after: number | null = 0; after !== null;) {
      const page = await link.list(keep.id, after)
      all.push(...page.items)
      after = page.next
      count += page.items.length
      if (count > MAX_ITEMS)
        throw linkFailure('bad-request', `There are more than ${MAX_ITEMS} items. Choose one place.`)
    }
    const plain = all.filter((one) => one.opensAs !== 'rows' && !isBeside(one, all))
    await insert(listingId, link, keep, plain, judging)
    for (const database of all.filter((one) => one.opensAs === 'rows')) {
      const beside = (suffix: string) =>
        all.find((one) => one.name === `${database.name}${suffix}` && samePlace(one, database)) ?? null
      const files = { wal: beside('-wal'), journal: beside('-journal') }
      const rows = await itemsOfRows(link, keep.id, database, files)
      warnings.push(...rows.warnings)
      await insert(listingId, link, keep, rows.items, judging)
    }
  }
  carrySelection(useLantern().database, listingId)
  return warnings
}

const samePlace = (one: LinkItem, other: LinkItem) => one.place.join('/') === other.place.join('/')

/** Logs and journals belong to their database and are not items of their own. */
const isBeside = (item: LinkItem, all: readonly LinkItem[]) =>
  /-(wal|journal|shm)$/.test(item.name) &&
  all.some((one) => one.opensAs === 'rows' && item.name.startsWith(`${one.name}-`) && samePlace(one, item))

async function insert(listingId: number, link: Link, keep: Keep, items: readonly LinkItem[], judging: Judging) {
  const { database } = useLantern()
  const rows: NewFind[] = []
  for (const item of items) rows.push(rowOf(listingId, keep, await withOwnDate(link, keep.id, item), judging))
  database.transaction(() => void insertFinds(database, rows))
}

/** How much of a picture is read for its camera's metadata, in bytes. */
const PHOTO_DATA_BYTES = 131_072

/** A picture without a date in its list gets the one from its camera's metadata. */
async function withOwnDate(link: Link, keep: string, item: LinkItem): Promise<LinkItem> {
  if (item.made !== null || item.type !== 'photos' || !/jpeg|tiff|heic|png/.test(item.mime)) return item
  try {
    const head = firstBytes(await link.read(keep, item.id), PHOTO_DATA_BYTES)
    return { ...item, made: await readFileAs<string | null>({ ask: 'made', name: item.name }, head) }
  } catch {
    return item
  }
}

async function* firstBytes(parts: AsyncIterable<Uint8Array>, most: number): AsyncIterable<Uint8Array> {
  let left = most
  for await (const part of parts) {
    yield part.subarray(0, left)
    left -= part.length
    if (left <= 0) return
  }
}

function end(listingId: number, state: 'whole' | 'broken-off', says: string) {
  const { database } = useLantern()
  database.update(listings).set({ state, says }).where(eq(listings.id, listingId)).run()
}

/** A listing of this case; throws a Failure where the case has none of this number. */
export function listingOf(caseId: number, listingId: number): typeof listings.$inferSelect {
  const listing = Number.isInteger(listingId)
    ? useLantern()
        .database.select()
        .from(listings)
        .where(and(eq(listings.id, listingId), eq(listings.caseId, caseId)))
        .get()
    : undefined
  if (!listing) throw new Failure('not-found', 'That listing no longer exists. List the items again.')
  return listing
}

/** Listings that were under way when the server ended are marked as interrupted; scans resume by themselves. */
export function breakOffListings(): void {
  const { database } = useLantern()
  database
    .update(listings)
    .set({ state: 'broken-off', says: 'The server restarted during the listing. List the items again.' })
    .where(
      and(
        eq(listings.state, 'listing'),
        notExists(database.select({ id: passes.id }).from(passes).where(eq(passes.listingId, listings.id))),
      ),
    )
    .run()
}
