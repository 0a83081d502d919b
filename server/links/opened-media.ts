import { eq } from 'drizzle-orm'
import { linkFailure } from '../../core/bench/fault'
import { isBeingWorked, type CaseStateName } from '../../core/cases/shape/states'
import type { OpenedVolume } from '../../core/volumes/luks/opened'
import { OPENS_NONE, type Unlocked } from '../../core/volumes/unlock-volumes'
import { caseLinks, cases } from '../db/tables'
import { LimitFault, ProcessLine } from '../threads/process-line'
import type { UnlockOrder } from '../threads/unlock-order'
import type { Medium } from './medium'

/** A volume is closed after this time at the latest, and its key forgotten. */
const FORGET_MS = 12 * 3_600_000
/** A key function takes up to 2 GiB and some minutes, by design. */
const LIMITS = { ms: 180_000, bytes: 3 * 1024 ** 3 }

interface Opened {
  readonly volumes: readonly OpenedVolume[]
  /** of the medium whose volumes they are */
  readonly stamp: string
  readonly since: number
}

/** Keys are held in the memory of the server alone: after it ends, every volume is closed. */
const opened = new Map<string, Opened>()

const OPENED = ' opened '

/** The medium with its volumes opened, as far as they are; `medium` is closed. */
export function withOpened(medium: Medium): Medium {
  const own = opened.get(medium.id)
  if (!own) return medium
  if (own.stamp !== medium.stamp || own.since < Date.now() - FORGET_MS || !isWorkedOn(medium.id)) {
    opened.delete(medium.id)
    return medium
  }
  const places = own.volumes.map(({ at }) => at).join()
  return {
    ...medium,
    place: { ...medium.place, opened: [...own.volumes] },
    stamp: `${medium.stamp}${OPENED}${places}`,
    closed: medium,
  }
}

/** Whether a case that is being worked reads this medium. */
const isWorkedOn = (link: string): boolean =>
  useLantern()
    .database.select({ state: cases.state })
    .from(caseLinks)
    .innerJoin(cases, eq(cases.id, caseLinks.caseId))
    .where(eq(caseLinks.link, link))
    .all()
    .some(({ state }) => isBeingWorked(state as CaseStateName))

/** A medium as it can be read now: with its volumes opened, and as it is closed. */
export const viewsOf = (medium: Medium): Medium[] => (medium.closed ? [medium, medium.closed] : [medium])

/** Whether a stamp is that of this medium with volumes opened that are closed now. */
export const isOfClosed = ({ stamp, closed }: Medium, other: string) =>
  other.startsWith(`${closed?.stamp ?? stamp}${OPENED}`)

/** Opens every volume of a medium that this passphrase fits. Throws a LinkFailure where it fits none. */
export async function openVolumes(medium: Medium, passphrase: string): Promise<void> {
  const bare = medium.closed ?? medium
  const line = new ProcessLine('unlock-volumes', LIMITS)
  try {
    const order: UnlockOrder = { medium: bare.place, passphrase }
    const { locked, opened: own, faults } = await line.ask<Unlocked>(order)
    if (locked === 0) throw linkFailure('bad-request', 'This medium has no volume that a passphrase opens.')
    if (own.length === 0) {
      const other = faults.find(({ what }) => what !== OPENS_NONE)
      throw other
        ? linkFailure('not-met', `Not opened: ${other.where}, ${other.what}.`.slice(0, 400))
        : linkFailure('wrong-password', 'This passphrase opens none of its key slots. Nothing was changed.')
    }
    // A second passphrase may open a second volume.
    const kept = opened.get(medium.id)
    const others = kept?.stamp === bare.stamp ? kept.volumes.filter(({ at }) => !own.some((one) => one.at === at)) : []
    opened.set(medium.id, { volumes: [...others, ...own], stamp: bare.stamp, since: Date.now() })
  } catch (error) {
    throw error instanceof LimitFault
      ? linkFailure(
          'not-met',
          `The passphrase could not be tried: ${error.message} Its key function may need more memory than there is.`,
        )
      : error
  } finally {
    line.end()
  }
}

/** Closes the volumes of a medium, and forgets their keys. */
export const closeVolumes = (medium: Medium) => void opened.delete(medium.id)
