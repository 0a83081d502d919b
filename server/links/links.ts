import type { Link } from '../../core/bench/link'
import type { LinkSummary } from '../../core/bench/state'
import { notFound } from '../failure'
import { backups } from './archive-links'
import { helpers } from './helpers'
import { media } from './medium-links'
import type { LinkProvider } from './provider'

/** Every source of links, in the order in which they are listed. A new one is one file, and a line here. */
export const LINK_PROVIDERS: readonly LinkProvider[] = [helpers, backups, media]

/** Everything that can be connected to: what helpers have, the backups that lie in known folders, and the media. */
export async function everyLink(): Promise<LinkSummary[]> {
  return (await Promise.all(LINK_PROVIDERS.map((provider) => provider.list()))).flat()
}

/** One link by its id; a Failure where nothing on the bench has it. */
export async function linkById(id: string): Promise<Link> {
  // Helpers answer over a line, so they are asked last.
  for (const provider of LINK_PROVIDERS.toReversed()) {
    const link = await provider.byId(id)
    if (link) return link
  }
  throw notFound('such device, account or medium')
}
