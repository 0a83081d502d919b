import type { Link } from '../../core/bench/link'
import type { LinkSummary } from '../../core/bench/state'
import { notFound } from '../failure'
import { ownAddress } from '../http/address'
import { httpLink, linksOf, type Helper } from './http-link'
import { mediumLink, mediumLinks } from './medium-links'
import { archiveLink, archiveLinks } from './archive-links'

/** The helpers that this bench speaks to. The stand-ins' one listens on this very server. */
function helpers(): Helper[] {
  const { standIns, helperToken } = useLantern()
  if (!standIns) return []
  return [{ address: `${ownAddress()}/helper`, token: helperToken }]
}

/** Everything that can be connected to: what helpers have, the backups that lie in known folders, and the media. */
export async function everyLink(): Promise<LinkSummary[]> {
  const lists = await Promise.all([...helpers().map(linksOf), archiveLinks(), mediumLinks()])
  return lists.flat()
}

/** Which helper has which link, as it was heard last; asked again where one is not among them. */
const heard = new Map<string, Helper>()

/** One link by its id; a Failure where nothing on the bench has it. */
export async function linkById(id: string): Promise<Link> {
  const own = (await archiveLink(id)) ?? (await mediumLink(id))
  if (own) return own
  if (!heard.has(id)) for (const helper of helpers()) for (const one of await linksOf(helper)) heard.set(one.id, helper)
  const helper = heard.get(id)
  if (!helper) throw notFound('such thing on the bench')
  return httpLink(helper, id)
}
