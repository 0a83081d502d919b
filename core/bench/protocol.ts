import { z } from 'zod'
import { ActionName, ActionOffer, ActionParameters, Task } from './action'
import { LinkFault } from './fault'
import { ItemPage, LinkItem } from './item'
import { Answer, LinkState, LinkSummary } from './state'

/** The protocol between the bench and a helper, version 1; described in docs/link-protocol.md. */
export const PROTOCOL_HEADER = 'lantern-protocol'
export const PROTOCOL_VERSION = '1'
/** Facts of an item to restore, as URI-encoded JSON beside its bytes. */
export const ITEM_HEADER = 'lantern-item'

export const LinkList = z.object({ links: z.array(LinkSummary).max(500) })
export const PutBackItem = LinkItem.pick({
  id: true,
  name: true,
  place: true,
  type: true,
  mime: true,
  made: true,
  record: true,
})

export const ActionRequest = z.object({ action: ActionName, parameters: ActionParameters.prefault({}) })

/** Every message of the protocol as JSON Schema, draft 2020-12. */
export function linkProtocolJsonSchema(): object {
  return z.toJSONSchema(
    z.object({
      list: LinkList,
      state: LinkState,
      answer: Answer,
      items: ItemPage,
      putBack: PutBackItem,
      actionRequest: ActionRequest,
      offer: ActionOffer,
      task: Task,
      fault: LinkFault,
    }),
    { target: 'draft-2020-12' },
  )
}
