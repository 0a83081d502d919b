import { runAt } from '../../core/cases/shape/open-runs'
import { judgeBackups } from '../../core/bench/choosing'
import { partKindOf, partsOf } from '../../core/bench/part'
import type { BenchAnswer } from '../../core/bench/bench'
import type { LinkState } from '../../core/bench/state'
import { readStored } from '../cases/rows'
import { choosable } from '../links/backups'
import { attachedTo } from '../links/case-links'
import { fetchesOf } from '../steps/fetches'
import { faultWords } from '../links/link-failures'
import { stateOfLink } from '../links/link-states'
import { passesOf } from '../passes/pass-shapes'
import { describeMedium } from '../links/medium-links'
import { mediumById } from '../links/register'
import { listingsOf } from '../listings/listings-of-case'
import { safetyCopiesOf } from '../steps/safety-copy'
import { shelfState } from '../shelf/shelf'

/** Everything that the bench of one case shows. */
export async function benchOf(code: string): Promise<BenchAnswer> {
  const stored = readStored(useLantern().database, code)
  const attached = attachedTo(stored)
  const states: LinkState[] = []
  const faults: BenchAnswer['faults'] = []
  await Promise.all(
    [...new Set(attached.map((one) => one.link))].map(async (link) => {
      try {
        states.push(await stateOfLink(link))
      } catch (error) {
        faults.push({ link, says: faultWords(error) })
      }
    }),
  )
  const order = new Map(attached.map((one, at) => [one.link, at]))
  states.sort((one, other) => order.get(one.id)! - order.get(other.id)!)
  const fetched = await fetchesOf(stored.id)
  return {
    parts: [
      ...partsOf(stored.case).map((one) => ({
        ...one,
        link: attached.find(({ part }) => part === one.part)?.link ?? null,
      })),
      ...attached
        .filter(({ part }) => partKindOf(stored.case, part) === 'accessory')
        .map(({ part, link }) => ({
          part,
          kind: 'accessory' as const,
          words: states.find((one) => one.id === link)?.title ?? 'a backup that was fetched',
          link,
        })),
    ],
    links: states,
    faults,
    listings: listingsOf(useLantern().database, stored.id),
    shelf: await shelfState(stored.id),
    fetches: fetched,
    safetyCopies: safetyCopiesOf(stored.id).map((row) => ({
      link: row.link,
      at: row.at,
      items: row.items,
      bytes: row.bytes,
      isVerified: row.verifiedAt !== null,
      isCurrent: states.find((one) => one.id === row.link)?.mark === row.mark,
    })),
    media: await mediaOf(states),
    passes: passesOf(stored.id),
    judged: judgeBackups(await choosable(stored, states), stored.case),
    runId: runAt(stored.case, null)?.id ?? null,
  }
}

/** The media among the links of a case, with their volumes and the areas in use. */
async function mediaOf(states: readonly LinkState[]): Promise<BenchAnswer['media']> {
  const media = await Promise.all(states.filter(({ kind }) => kind === 'medium').map(({ id }) => mediumById(id)))
  return Promise.all(media.flatMap((medium) => (medium ? [describeMedium(medium)] : [])))
}
