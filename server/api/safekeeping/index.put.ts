import { BackupWish, Health } from '../../../core/safekeeping/backup'
import { logForPerson } from '../../people/log-for-person'
import { healthOf } from '../../safekeeping/health'
import { setBackup } from '../../safekeeping/settings'

/** Names where backups go, what is in them, and the passphrase that opens them. */
export default defineRoute({ answers: Health, may: 'people', body: BackupWish }, async ({ event, person, body }) => {
  await setBackup(useLantern().database, body)
  logForPerson(event, person, { event: body.passphrase === null ? 'backups-named' : 'backup-passphrase-set' })
  return healthOf()
})
