import { Health } from '../../../core/safekeeping/backup'
import { backUp } from '../../safekeeping/backups'
import { healthOf } from '../../safekeeping/health'

/** Makes a backup now; the answer says how it went. */
export default defineRoute({ answers: Health, may: 'people' }, async () => {
  await backUp()
  return healthOf()
})
