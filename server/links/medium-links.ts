import { and, desc, eq } from 'drizzle-orm'
import { linkFailure } from '../../core/bench/fault'
import type { Link } from '../../core/bench/link'
import { stateOfReadOnly, type LinkState, type LinkSummary } from '../../core/bench/state'
import { Evidence, type MediumShape } from '../../core/bench/medium'
import { readStoredFind } from '../db/stored-find'
import { findBodies, finds, listings, shelfItems } from '../db/tables'
import { closeVolumes, openVolumes, viewsOf } from './opened-media'
import { markOfStamp } from './stamp'
import { onlyRead, type LinkProvider } from './provider'
import { closeReader, describe, readFrom } from './reader'
import type { Medium } from './medium'
import { everyMedium, mediumById } from './register'

const PART_BYTES = 1 << 20

const summaryOf = ({ id, title, isStandIn }: Medium): LinkSummary => ({
  id,
  kind: 'medium',
  title,
  platform: 'medium',
  isStandIn,
})

/** The images and devices that may be read here. */
export const media: LinkProvider = {
  name: 'media',
  list: async () => (await everyMedium()).map(summaryOf),
  async byId(id) {
    const medium = await mediumById(id)
    return medium && linkTo(medium)
  },
}

function linkTo(medium: Medium): Link {
  return {
    state: async () => stateOf(medium, await describeMedium(medium)),
    answer: async ({ answer, value }) => {
      if (answer === 'sign-out') close(medium)
      else if (answer === 'password') await openVolumes(medium, value)
      else throw linkFailure('bad-request', 'A medium takes only the passphrase of an encrypted volume.')
      const now = await mediumById(medium.id)
      if (!now) throw linkFailure('not-found', 'The medium is no longer there.')
      return stateOf(now, await describeMedium(now))
    },
    list: async () => {
      throw linkFailure('not-met', 'A medium is listed by a quick pass or a deep scan.')
    },
    read: async (keep, item, from = 0) => {
      const view = viewsOf(medium).find(({ stamp }) => keep.endsWith(`.${markOfStamp(stamp)}`))
      if (!view) throw linkFailure('disturbed', await whyNotThere(medium))
      return new ContentOfMedium(view, evidenceOf(medium.id, `${keep}/${item}`), from)
    },
    ...onlyRead('A medium'),
    leave: async () => close(medium),
  }
}

function close(medium: Medium): void {
  closeVolumes(medium)
  closeReader(medium)
}

/** The bytes of an item that was found on a medium, part by part. */
class ContentOfMedium {
  missingBytes = 0

  constructor(
    private readonly medium: Medium,
    private readonly found: { readonly bytes: number; readonly evidence: Evidence },
    private readonly from: number,
  ) {}

  async *[Symbol.asyncIterator](): AsyncIterator<Uint8Array> {
    const { bytes, evidence } = this.found
    for (let offset = this.from; offset < bytes; offset += PART_BYTES) {
      const length = Math.min(PART_BYTES, bytes - offset)
      const { extents, kept } = evidence
      const part = await readFrom(this.medium, { extents, kept, offset, length })
      if (part.bytes.length === 0) return
      this.missingBytes += part.missing
      yield part.bytes
    }
  }
}

/** Location of a found item: from the newest listing, or as it was when it was selected for the shelf. */
function evidenceOf(link: string, item: string): { bytes: number; evidence: Evidence } {
  const { database } = useLantern()
  const found =
    database
      .select({ body: findBodies.body, bytes: finds.bytes })
      .from(finds)
      .innerJoin(listings, eq(listings.id, finds.listingId))
      .innerJoin(findBodies, eq(findBodies.findId, finds.id))
      .where(and(eq(finds.item, item), eq(listings.link, link)))
      .orderBy(desc(finds.id))
      .limit(1)
      .get() ??
    database
      .select({ body: shelfItems.body, bytes: shelfItems.bytes })
      .from(shelfItems)
      .where(and(eq(shelfItems.item, item), eq(shelfItems.link, link)))
      .limit(1)
      .get()
  if (!found) throw linkFailure('not-found', 'That was not found on this medium.')
  const { evidence } = readStoredFind(found.body)
  return { bytes: found.bytes, evidence: Evidence.parse(evidence) }
}

const described = new Map<string, { readonly stamp: string; readonly shape: Promise<MediumShape> }>()

/** What a medium says about itself; read again only where it has changed. */
export function describeMedium(medium: Medium): Promise<MediumShape> {
  const known = described.get(medium.id)
  if (known?.stamp === medium.stamp) return known.shape
  const shape = describe(medium).then((told): MediumShape => ({ link: medium.id, isDevice: medium.isDevice, ...told }))
  described.set(medium.id, { stamp: medium.stamp, shape })
  // A medium that failed may work the next time.
  shape.catch(() => described.delete(medium.id))
  return shape
}

const isLockedIn = ({ volumes }: MediumShape) => volumes.some(({ lock }) => lock === 'closed')

/** Why an item that was found is not at its place any more. */
async function whyNotThere(medium: Medium): Promise<string> {
  return isLockedIn(await describeMedium(medium))
    ? 'It was found in an encrypted volume that is closed again. Open it with its passphrase; where the medium has changed, scan it again.'
    : 'The medium has changed since this item was found. Scan it again.'
}

const TO_OPEN: LinkState['needs'][number] = {
  answer: 'password',
  says: 'Open the encrypted volume with its passphrase. It is only read; what is typed is not stored.',
  byHand: false,
  choices: [],
}
const TO_CLOSE: LinkState['needs'][number] = {
  answer: 'sign-out',
  says: 'Close the encrypted volume; its key is forgotten.',
  byHand: false,
  choices: [],
}

function stateOf(medium: Medium, shape: MediumShape): LinkState {
  const kinds = [...new Set(shape.volumes.map(({ fileSystem }) => fileSystem ?? 'an unknown file system'))]
  const isLocked = isLockedIn(shape)
  return stateOfReadOnly(summaryOf(medium), {
    state: 'ready',
    says: `${kinds.join(' and ') || 'No known file system'}; opened read only.`,
    bytesPerSecond: 50_000_000,
    needs: [...(isLocked ? [TO_OPEN] : []), ...(medium.closed ? [TO_CLOSE] : [])],
    encryption: isLocked || medium.closed ? 'whole-device' : null,
    mark: markOfStamp(medium.stamp),
    now: new Date(useLantern().clock.now()).toISOString(),
  })
}
