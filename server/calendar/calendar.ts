import { and, eq, isNotNull, lt, ne, or } from 'drizzle-orm'
import type { LinkState } from '../../core/bench/state'
import { datesOf, type CaseDate } from '../../core/calendar/dates'
import { calendarOf } from '../../core/calendar/icalendar'
import type { Person } from '../../core/people/person'
import type { Playbook } from '../../core/playbook/playbook'
import { readStored } from '../cases/rows'
import { NEVER_CLOSES } from '../cases/plans'
import { visibleTo } from '../cases/visible'
import { cases, plans } from '../db/tables'
import { attachedTo } from '../links/case-links'
import { stateOfLink } from '../links/link-states'

/** A link that does not answer in time is left out: a calendar is read again soon. */
const LINK_WAIT_MS = 2000

/** The calendar of a person: the cases that are with them or with nobody, of those that they see. */
export async function calendarFor(person: Person, playbook: Playbook, now: number): Promise<string> {
  const { database } = useLantern()
  const rows = database
    .select({ code: cases.code, closes: plans.closes })
    .from(cases)
    .leftJoin(plans, and(eq(plans.caseId, cases.id), lt(plans.closes, NEVER_CLOSES)))
    .where(
      and(
        or(ne(cases.state, 'closed'), and(isNotNull(cases.endedAt), eq(cases.isDataWiped, false))),
        visibleTo(person.role),
      ),
    )
    .all()
  const dates: CaseDate[] = []
  for (const { code, closes } of rows) {
    const stored = readStored(database, code)
    const { with: worker } = stored.case
    if (worker !== null && worker !== person.name && worker !== person.signIn) continue
    const links = await Promise.all([...new Set(attachedTo(stored).map(({ link }) => link))].map(stateSoon))
    dates.push(
      ...datesOf(stored.case, { shop: playbook.shop, closes, links: links.filter((one) => one !== null), now }),
    )
  }
  return calendarOf(dates, playbook.shop.name, now)
}

const stateSoon = (link: string): Promise<LinkState | null> =>
  Promise.race([
    stateOfLink(link).catch(() => null),
    new Promise<null>((done) => setTimeout(() => done(null), LINK_WAIT_MS).unref()),
  ])
