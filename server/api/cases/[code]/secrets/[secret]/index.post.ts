import { SecretValue } from '../../../../../../core/bench/secret'
import { readSecret } from '../../../../../cases/secrets'

/** A noted secret itself, for those who work at the bench. It is asked for by POST, since looking leaves an entry. */
export default defineRoute({ answers: SecretValue, may: 'work' }, ({ param, writer, event }) => {
  setResponseHeader(event, 'cache-control', 'no-store')
  return { value: readSecret(useLantern().database, param('code'), Number(param('secret')), writer) }
})
