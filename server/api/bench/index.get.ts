import { BenchOverview } from '../../../core/bench/bench'
import { archiveFacts } from '../../links/archive-links'
import { casesByLink } from '../../links/case-links'
import { throughLink } from '../../links/link-failures'
import { everyLink } from '../../links/links'
import { titleIn } from '../../cases/titles'
import { passesUnderWay } from '../../passes/pass-shapes'

/** Every link of the shop, and the cases that it is attached to. */
export default defineRoute({ answers: BenchOverview, may: 'work' }, ({ person }) =>
  throughLink(async (): Promise<BenchOverview> => {
    const byLink = casesByLink(person.role)
    const archives = await archiveFacts()
    return {
      passes: passesUnderWay(person.role),
      links: (await everyLink()).map((link) => ({
        ...link,
        archive: archives.get(link.id) ?? null,
        cases: (byLink.get(link.id) ?? []).filter(isFirstOfCase).map(({ code, version, part }) => ({
          code,
          part,
          title: titleIn(useLantern().database, { code, version }),
        })),
      })),
    }
  }),
)

/** A link attached to two parts of a case is listed once. */
const isFirstOfCase = (one: { code: string }, at: number, all: readonly { code: string }[]) =>
  all.findIndex(({ code }) => code === one.code) === at
