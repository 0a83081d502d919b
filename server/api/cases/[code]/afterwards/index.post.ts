import { AfterwardsAnswer, AfterwardsWrite } from '../../../../../core/afterwards/record'
import { afterwardsOf, writeAfterwards } from '../../../../afterwards/answer'

/** Wipes a part of a case by hand, or keeps it longer than usual. */
export default defineRoute(
  { answers: AfterwardsAnswer, may: 'close', body: AfterwardsWrite },
  async ({ body, param, person, playbook, writer, now }) => {
    const code = param('code')
    await writeAfterwards(code, body, { role: person.role, writer })
    return afterwardsOf(code, playbook, now)
  },
)
