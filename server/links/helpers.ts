import { ownAddress } from '../http/address'
import { httpLink, linksOf, type Helper } from './http-link'
import type { LinkProvider } from './provider'

/** The helpers that this bench speaks to. The helper of the stand-ins is part of this server. */
function known(): Helper[] {
  const { standIns, helperToken } = useLantern()
  return standIns ? [{ address: `${ownAddress()}/helper`, token: helperToken }] : []
}

/** Which helper has which link, as last reported; asked again where a link is unknown. */
const heard = new Map<string, Helper>()

/** The links of helpers: devices, accounts and computers. */
export const helpers: LinkProvider = {
  name: 'helpers',
  list: async () => (await Promise.all(known().map(linksOf))).flat(),
  async byId(id) {
    if (!heard.has(id)) for (const helper of known()) for (const one of await linksOf(helper)) heard.set(one.id, helper)
    const helper = heard.get(id)
    return helper ? httpLink(helper, id) : null
  },
}
