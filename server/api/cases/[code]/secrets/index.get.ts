import { SecretNotes } from '../../../../../core/bench/secret'
import { readStored } from '../../../../cases/rows'
import { secretsOf } from '../../../../cases/secrets'

/** Which passcodes and passwords were noted for a case, without them. */
export default defineRoute({ answers: SecretNotes, may: 'see' }, ({ param }) => {
  const { database } = useLantern()
  return secretsOf(database, readStored(database, param('code')).id)
})
