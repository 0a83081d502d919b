import { ClientList } from '../../../core/cases/shape/summary'
import { findClients } from '../../cases/clients'

export default defineRoute({ answers: ClientList, may: 'log' }, ({ event }) =>
  findClients(useLantern().database, String(getQuery(event).find ?? '')),
)
