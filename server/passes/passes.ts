import { runAt } from '../../core/cases/shape/open-runs'
import { partKindOf } from '../../core/bench/part'
import { and, eq, inArray } from 'drizzle-orm'
import type { PassOptions, PassWish } from '../../core/bench/medium'
import { readStored, type Writer } from '../cases/rows'
import { listings, passes } from '../db/tables'
import { notFound, refused } from '../failure'
import { requireAttached } from '../links/case-links'
import { requireConsent, requireNotStopped } from '../cases/consent'
import { noteAtBench } from '../links/notes'
import { describeMedium } from '../links/medium-links'
import { mediumById } from '../links/register'
import { type PassRow, passRow, instant, setPass } from './pass-rows'
import { tellNews } from './pass-news'
import { beginNext, orderPass, runningPass } from './queue'
import { checksumOfMedium } from './pass-shapes'

/** Everything found on a medium is one keep, so that a later scan replaces an earlier one. */
export const MEDIUM_KEEP = 'medium'

/** A request is answered after this time at the latest; its effect is streamed as news. */
const ANSWER_MS = 3000

/** Queues a scan of a medium; returns its listing, which fills as the scan runs. */
export async function startPass(
  code: string,
  linkId: string,
  options: PassOptions,
  writer: Writer,
): Promise<{ pass: number; listing: number }> {
  const { database } = useLantern()
  const stored = readStored(database, code)
  requireConsent(stored)
  const { part } = requireAttached(stored, linkId)
  const medium = await mediumById(linkId)
  if (!medium) throw notFound('such medium')
  const { bytes } = await describeMedium(medium)
  const own = and(eq(passes.caseId, stored.id), eq(passes.link, linkId))
  const under = database
    .select({ id: passes.id })
    .from(passes)
    .where(and(own, inArray(passes.state, ['queued', 'running'])))
    .get()
  if (under)
    throw refused('A scan of this medium is already in progress. Wait for it or end it before starting another.')
  const run = runAt(stored.case, part)
  const made = database.transaction((transaction) => {
    const { listing } = transaction
      .insert(listings)
      .values({
        caseId: stored.id,
        runId: run?.id ?? null,
        link: linkId,
        keep: MEDIUM_KEEP,
        title: medium.title,
        at: instant(),
        by: writer.by,
        state: 'listing',
      })
      .returning({ listing: listings.id })
      .get()
    const { pass } = transaction
      .insert(passes)
      .values({
        caseId: stored.id,
        listingId: listing,
        link: linkId,
        isOwn: partKindOf(stored.case, part) === 'device',
        options: JSON.stringify(options),
        state: 'queued',
        stamp: medium.stamp,
        bytes,
        sha256: checksumOfMedium(medium),
        by: writer.by,
        queued: instant(),
      })
      .returning({ pass: passes.id })
      .get()
    return { pass, listing }
  })
  noteAtBench(
    code,
    linkId,
    options.pass === 'quick' ? 'started a quick pass over the medium' : 'started a deep scan of the medium',
    writer,
  )
  await beginNext()
  return made
}

/** Passes an order on to a scan. */
export async function wishOfPass(code: string, id: number, wish: PassWish, writer: Writer): Promise<void> {
  const { database } = useLantern()
  const stored = readStored(database, code)
  const pass = passRow(id)
  if (pass?.caseId !== stored.id) throw notFound('such pass')
  // An order that changes nothing leaves no entry in the history.
  if (!mayWish(pass.state, wish)) return tellNews(stored.id)
  if (wish === 'resume') resume(pass)
  else if (wish === 'discard') {
    requireNotStopped(stored)
    await discard(pass)
  } else if (pass.state === 'running') {
    orderPass(id, { order: 'wish', wish })
    await Promise.race([runningPass(id)?.ended, new Promise((done) => setTimeout(done, ANSWER_MS).unref())])
  } else {
    setPass(id, { state: wish === 'pause' ? 'paused' : 'enough', says: '', ended: instant() })
    if (wish === 'finish')
      database.update(listings).set({ state: 'whole' }).where(eq(listings.id, pass.listingId)).run()
  }
  noteAtBench(code, pass.link, WISH_WORDS[wish], writer)
  tellNews(stored.id)
  await beginNext()
}

const WISH_WORDS: Record<PassWish, string> = {
  pause: 'paused the scan of the medium',
  resume: 'resumed the scan of the medium',
  finish: 'ended the scan of the medium early',
  discard: 'cancelled the scan and discarded its results',
}

function mayWish(state: PassRow['state'], wish: PassWish): boolean {
  if (wish === 'discard') return true
  if (wish === 'resume') return ['paused', 'enough', 'failed'].includes(state)
  return state === 'running' || state === 'queued' || (state === 'paused' && wish === 'finish')
}

function resume(pass: PassRow): void {
  const { database } = useLantern()
  database.transaction((transaction) => {
    transaction
      .update(passes)
      .set({ state: 'queued', says: '', crashes: 0, ended: null })
      .where(eq(passes.id, pass.id))
      .run()
    transaction.update(listings).set({ state: 'listing', says: '' }).where(eq(listings.id, pass.listingId)).run()
  })
}

/** Cancels a scan and deletes its results. */
async function discard(pass: PassRow): Promise<void> {
  const { database } = useLantern()
  const job = runningPass(pass.id)
  // Without its claim the job writes nothing more, whatever it is doing.
  setPass(pass.id, { claim: null, state: 'paused' })
  if (job) {
    orderPass(pass.id, { order: 'wish', wish: 'end' })
    await job.ended
  }
  database.delete(listings).where(eq(listings.id, pass.listingId)).run()
}
