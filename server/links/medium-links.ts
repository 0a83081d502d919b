import { and, desc, eq } from 'drizzle-orm'
import { linkFailure } from '../../core/bench/fault'
import type { Link } from '../../core/bench/link'
import { stateOfReadOnly, type LinkState, type LinkSummary } from '../../core/bench/state'
import { Evidence, type MediumShape } from '../../core/bench/medium'
import { readStoredFind } from '../db/stored-find'
import { findBodies, finds, listings, shelfItems } from '../db/tables'
import { markOfStamp } from './stamp'
import { onlyRead, type LinkProvider } from './provider'
import { describe, readFrom } from './reader'
import { everyMedium, mediumById, type Medium } from './register'

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
    answer: async () => {
      throw linkFailure('bad-request', 'A medium takes no passcode or password.')
    },
    list: async () => {
      throw linkFailure('not-met', 'A medium is listed by a quick pass or a deep scan.')
    },
    read: async (keep, item, from = 0) => {
      if (!keep.endsWith(`.${markOfStamp(medium.stamp)}`))
        throw linkFailure('disturbed', 'The medium has changed since this item was found. Scan it again.')
      return new ContentOfMedium(medium, evidenceOf(medium.id, `${keep}/${item}`), from)
    },
    ...onlyRead('A medium'),
    leave: async () => {},
  }
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

function stateOf(medium: Medium, shape: MediumShape): LinkState {
  const kinds = [...new Set(shape.volumes.map(({ fileSystem }) => fileSystem ?? 'an unknown file system'))]
  return stateOfReadOnly(summaryOf(medium), {
    state: 'ready',
    says: `${kinds.join(' and ') || 'No known file system'}; opened read only.`,
    bytesPerSecond: 50_000_000,
    mark: medium.stamp,
    now: new Date(useLantern().clock.now()).toISOString(),
  })
}
