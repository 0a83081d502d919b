import { findClients } from '../../cases/clients'

export default defineRoute({}, ({ event }) => findClients(useLantern().database, String(getQuery(event).find ?? '')))
