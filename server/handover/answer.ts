import { and, desc, eq, inArray, ne } from 'drizzle-orm'
import { titleOf } from '../../core/cases/telling/title'
import { DAY_MS } from '../../core/cases/shape/moment'
import type { HandoverAnswer } from '../../core/handover/answers'
import { may, type Role } from '../../core/people/person'
import type { Playbook } from '../../core/playbook/playbook'
import { readStored } from '../cases/rows'
import { visibleTo } from '../cases/visible'
import { cases } from '../db/tables'
import { attachmentsOf } from './attachments'
import { papersOf } from './papers'

/** Pictures, papers and sheets of a case, and the cases that it may be a return of. */
export function handoverOf(
  code: string,
  { role, playbook, now }: { readonly role: Role; readonly playbook: Playbook; readonly now: number },
): HandoverAnswer {
  const { database } = useLantern()
  const stored = readStored(database, code)
  const from = now - playbook.shop.papers.promiseDays * DAY_MS
  const { client } = stored.case
  const ended =
    client.id === null
      ? []
      : database
          .select({ code: cases.code })
          .from(cases)
          .where(
            and(
              eq(cases.clientId, client.id),
              ne(cases.code, code),
              inArray(cases.state, ['handed-over', 'closed']),
              visibleTo(role),
            ),
          )
          .orderBy(desc(cases.id))
          .limit(20)
          .all()
  return {
    attachments: attachmentsOf(stored.id),
    papers: papersOf(stored.id).filter(({ kind }) => kind !== 'annex' || may(role, 'work')),
    earlier: ended
      .map((one) => readStored(database, one.code).case)
      .filter(({ state }) => state.since !== null && Date.parse(state.since) >= from)
      .map((one) => ({ code: one.code, title: titleOf(one) })),
  }
}
