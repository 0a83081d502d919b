import { CaseAnswer } from '../../../../core/cases/facts/writing'
import { answered } from '../../../cases/answered'
import { importBundle } from '../../../exchange/import-bundle'

/** The bundle of a case, as raw bytes. */
export default defineRoute({ answers: CaseAnswer, may: 'log' }, async ({ event, playbook, writer }) =>
  answered(await importBundle(event.node.req, playbook, writer)),
)
