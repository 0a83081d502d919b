import { Answer, LinkState, type AnswerKind } from '../../../../../../../core/bench/state'
import { requireAttached } from '../../../../../../links/case-links'
import { refuseGuessing } from '../../../../../../steps/guard'
import { throughLink } from '../../../../../../links/link-failures'
import { linkById } from '../../../../../../links/links'
import { noteAtBench } from '../../../../../../links/notes'
import { requireConsent } from '../../../../../../cases/consent'
import { readStored } from '../../../../../../cases/rows'

/** Answers that open what the client brought; the others only wake, charge or connect it. */
const OPENS: readonly AnswerKind[] = ['passcode', 'password', 'second-factor', 'trust', 'debugging']

/** Passes on to the link what a person said or did. Secrets are passed on and stored nowhere. */
export default defineRoute({ answers: LinkState, may: 'work', body: Answer }, ({ body, param, writer }) =>
  throughLink(async () => {
    const stored = readStored(useLantern().database, param('code'))
    const { part } = requireAttached(stored, param('link'))
    if (OPENS.includes(body.answer)) requireConsent(stored)
    const link = await linkById(param('link'))
    if (body.answer === 'passcode') refuseGuessing(stored, part, await link.state())
    const state = await link.answer(body)
    if (OPENS.includes(body.answer))
      noteAtBench(param('code'), param('link'), `answered “${state.title}”: ${body.answer.replace('-', ' ')}`, writer)
    return state
  }),
)
