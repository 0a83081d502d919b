import { Evidence } from '../../core/ranking/situation/evidence'
import { readEvidence } from '../cases/evidence'

/** What the shop's own runs have taught; the browser plans with the same. */
export default defineRoute({ answers: Evidence, may: 'see' }, () => readEvidence(useLantern().database))
