import { Health } from '../../../core/safekeeping/backup'
import { healthOf } from '../../safekeeping/health'

/** The health of the shop itself: room, backups, jobs, and the last check. */
export default defineRoute({ answers: Health, may: 'people' }, () => healthOf())
