import { Health } from '../../../core/safekeeping/backup'
import { checkShop } from '../../safekeeping/backups'
import { healthOf } from '../../safekeeping/health'

/** Checks the database and its history now; the answer says what was found. */
export default defineRoute({ answers: Health, may: 'people' }, async () => {
  await checkShop()
  return healthOf()
})
