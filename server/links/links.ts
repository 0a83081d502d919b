import type { Link } from '../../core/bench/link'
import type { LinkSummary } from '../../core/bench/state'
import { notFound } from '../failure'
import { backups } from './archive-links'
import { batchOfLink, broughtFiles } from './batch-links'
import { helpers } from './helpers'
import { media } from './medium-links'
import type { LinkProvider } from './provider'

/** Every source of links, in the order in which they are listed. A new one is one file and a line here. */
export const LINK_PROVIDERS: readonly LinkProvider[] = [helpers, backups, media, broughtFiles]

/** Every link: those of helpers, the backups in known folders, and the media. */
export async function everyLink(): Promise<LinkSummary[]> {
  return (await Promise.all(LINK_PROVIDERS.map((provider) => provider.list()))).flat()
}

/** What a link is called; its id where it is not connected now. */
export async function titleOfLink(id: string): Promise<string> {
  return batchOfLink(id)?.title ?? (await everyLink()).find((link) => link.id === id)?.title ?? id
}

/** One link by its id; throws a Failure where there is none. */
export async function linkById(id: string): Promise<Link> {
  // Helpers are asked over a connection, so they come last.
  for (const provider of LINK_PROVIDERS.toReversed()) {
    const link = await provider.byId(id)
    if (link) return link
  }
  throw notFound('such device, account or medium')
}
