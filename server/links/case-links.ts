import { and, eq } from 'drizzle-orm'
import { inOrder, partsOf } from '../../core/bench/part'
import { readStored, type StoredCase, type Writer } from '../cases/rows'
import { caseLinks, cases } from '../db/tables'
import { invalid, refused } from '../failure'
import type { Role } from '../../core/people/person'
import { visibleTo } from '../cases/visible'
import { everyLink } from './links'
import { noteAtBench } from './notes'

export interface Attached {
  readonly part: string
  readonly link: string
}

const rowsOf = (caseId: number): Attached[] =>
  useLantern()
    .database.select({ part: caseLinks.part, link: caseLinks.link })
    .from(caseLinks)
    .where(eq(caseLinks.caseId, caseId))
    .all()

/** Which link is attached to which part of a case: devices first, then copies, then accessories. */
export const attachedTo = (stored: Pick<StoredCase, 'id' | 'case'>): Attached[] =>
  inOrder(stored.case, rowsOf(stored.id))

/** The links that are attached to a case. */
export const linksOfCase = (caseId: number): Set<string> => new Set(rowsOf(caseId).map(({ link }) => link))

/** What a case uses without it being part of the case: a computer that its phone trusts, say. */
const ACCESSORY = /^x\d{1,6}(-[a-z0-9]{1,40})?$/

/** Attaches a link to a part of a case; null detaches it. */
export async function attach(code: string, part: string, link: string | null, writer: Writer): Promise<void> {
  const { database } = useLantern()
  const stored = readStored(database, code)
  if (!partsOf(stored.case).some((one) => one.part === part) && !ACCESSORY.test(part))
    throw invalid([{ path: 'part', message: 'is no part of this case' }])
  const found = link === null ? null : (await everyLink()).find((one) => one.id === link)
  if (found === undefined) throw invalid([{ path: 'link', message: 'is not connected' }])
  put(stored, part, link, writer)
  noteAtBench(
    code,
    link ?? part,
    found ? `attached “${found.title}” to this case` : 'detached something from this case',
    writer,
  )
}

export function put(stored: Pick<StoredCase, 'id'>, part: string, link: string | null, writer: Writer): void {
  const { database } = useLantern()
  const where = and(eq(caseLinks.caseId, stored.id), eq(caseLinks.part, part))
  database.transaction((transaction) => {
    transaction.delete(caseLinks).where(where).run()
    if (link !== null)
      transaction
        .insert(caseLinks)
        .values({ caseId: stored.id, part, link, at: new Date(writer.now).toISOString(), by: writer.by })
        .run()
  })
}

/** Throws a Failure where a link belongs to a case that is stopped: nobody opens it by way of another case. */
function refuseStopped(link: string): void {
  const stopped = useLantern()
    .database.select({ id: cases.id })
    .from(caseLinks)
    .innerJoin(cases, eq(cases.id, caseLinks.caseId))
    .where(and(eq(caseLinks.link, link), eq(cases.isStopped, true)))
    .get()
  if (stopped) throw refused('The owner has to be asked before this is opened.')
}

/** Throws a Failure where a link is not attached to this case, or may not be opened now. */
export function requireAttached(stored: StoredCase, link: string): Attached {
  const found = attachedTo(stored).find((one) => one.link === link)
  if (!found) throw refused('Attach it to this case first, and say which device or copy it is.')
  refuseStopped(link)
  return found
}

/** A case to which a link is attached, and as which of its parts. */
interface CaseOnBench {
  readonly code: string
  readonly version: number
  readonly part: string
  readonly id: number
}

/** The cases of each link, as far as people of this role see them. */
export function casesByLink(role: Role): Map<string, CaseOnBench[]> {
  const rows = useLantern()
    .database.select({
      link: caseLinks.link,
      part: caseLinks.part,
      code: cases.code,
      version: cases.version,
      id: cases.id,
    })
    .from(caseLinks)
    .innerJoin(cases, eq(cases.id, caseLinks.caseId))
    .where(visibleTo(role))
    .all()
  const byLink = new Map<string, CaseOnBench[]>()
  for (const { link, ...row } of rows) byLink.set(link, [...(byLink.get(link) ?? []), row])
  return byLink
}
