import { findClients } from '../../cases/clients'

export default defineRoute({ may: 'log' }, ({ event }) =>
  findClients(useLantern().database, String(getQuery(event).find ?? '')),
)
