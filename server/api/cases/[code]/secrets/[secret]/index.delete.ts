import { SecretNotes } from '../../../../../../core/bench/secret'
import { readStored } from '../../../../../cases/rows'
import { forgetSecret, secretsOf } from '../../../../../cases/secrets'

export default defineRoute({ answers: SecretNotes, may: 'log' }, ({ param, writer }) => {
  const { database } = useLantern()
  forgetSecret(database, param('code'), Number(param('secret')), writer)
  return secretsOf(database, readStored(database, param('code')).id)
})
