import { ErasedAnswer, EraseWish } from '../../../../core/exchange/client-answer'
import { clientOf, eraseClient, isKnownClient } from '../../../exchange/client'

/** Erases all that can be erased about a client, at their wish. */
export default defineRoute(
  { answers: ErasedAnswer, may: 'people', body: EraseWish },
  async ({ body, param, person, playbook, writer, now }) => {
    const id = param('client')
    const { role } = person
    const wiped = await eraseClient(id, body.name, { role, playbook, writer })
    return { wiped, left: isKnownClient(id) ? await clientOf(id, role, playbook, now) : null }
  },
)
