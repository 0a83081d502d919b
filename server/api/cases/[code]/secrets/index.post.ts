import { NewSecret, SecretNotes } from '../../../../../core/bench/secret'
import { readStored } from '../../../../cases/rows'
import { noteSecret, secretsOf } from '../../../../cases/secrets'

/** Notes a passcode or password that the client left. */
export default defineRoute({ answers: SecretNotes, may: 'log', body: NewSecret }, ({ param, body, writer }) => {
  const { database } = useLantern()
  noteSecret(database, param('code'), body, writer)
  return secretsOf(database, readStored(database, param('code')).id)
})
