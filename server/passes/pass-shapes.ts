import { and, asc, desc, eq, inArray, isNotNull, ne } from 'drizzle-orm'
import { PassOptions, PassProgress, type PassShape } from '../../core/bench/medium'
import type { Role } from '../../core/people/person'
import { visibleTo } from '../cases/visible'
import { cases, listings, passes } from '../db/tables'
import { viewsOf } from '../links/opened-media'
import type { Medium } from '../links/medium'
import type { PassRow } from './pass-rows'
import { runningPass, runningCount } from './queue'

/** The passes of a case, the newest first. */
export function passesOf(caseId: number): PassShape[] {
  return useLantern()
    .database.select()
    .from(passes)
    .where(eq(passes.caseId, caseId))
    .orderBy(desc(passes.id))
    .limit(50)
    .all()
    .map(shapeOf)
}

/** The SHA-256 of a medium in its present state, where a scan has taken it; in hexadecimal. */
export function checksumOfMedium(medium: Medium): string | null {
  // It is the checksum of what is on the medium, whatever was opened.
  const stamps = viewsOf(medium).map(({ stamp }) => stamp)
  const found = useLantern()
    .database.select({ sha256: passes.sha256 })
    .from(passes)
    .where(and(eq(passes.link, medium.id), inArray(passes.stamp, stamps), isNotNull(passes.sha256)))
    .orderBy(desc(passes.id))
    .limit(1)
    .get()
  return found?.sha256 ?? null
}

/** Every scan that runs or is queued, with its case, as far as people of this role see it. */
export function passesUnderWay(role: Role): (PassShape & { code: string; title: string })[] {
  return useLantern()
    .database.select({ pass: passes, code: cases.code, title: listings.title })
    .from(passes)
    .innerJoin(cases, eq(cases.id, passes.caseId))
    .innerJoin(listings, eq(listings.id, passes.listingId))
    .where(and(inArray(passes.state, ['queued', 'running', 'paused']), visibleTo(role)))
    .orderBy(asc(passes.queued))
    .all()
    .map(({ pass, code, title }) => ({ ...shapeOf(pass), code, title }))
}

function shapeOf(pass: PassRow): PassShape {
  const live = runningPass(pass.id)?.progress ?? null
  const stored = pass.progress === null ? null : PassProgress.parse(JSON.parse(pass.progress))
  return {
    id: pass.id,
    listing: pass.listingId,
    link: pass.link,
    options: PassOptions.parse(JSON.parse(pass.options)),
    state: pass.state,
    says: pass.says,
    progress: pass.state === 'running' ? (live ?? stored) : stored,
    waitsFor: pass.state === 'queued' ? waitingBefore(pass) : 0,
    sha256: pass.sha256,
    begun: pass.begun,
    ended: pass.ended,
  }
}

function waitingBefore(pass: PassRow): number {
  const queued = useLantern()
    .database.select({ id: passes.id, queued: passes.queued })
    .from(passes)
    .where(and(eq(passes.state, 'queued'), ne(passes.id, pass.id)))
    .all()
  return (
    runningCount() +
    queued.filter((one) => one.queued < pass.queued || (one.queued === pass.queued && one.id < pass.id)).length
  )
}
