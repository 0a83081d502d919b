import { findCases, openCases } from '../../cases/summaries'

export default defineRoute({ may: 'see' }, ({ event, playbook, now }) => {
  const { database } = useLantern()
  const sought = String(getQuery(event).find ?? '').slice(0, 120)
  return sought.trim() === '' ? openCases(database, { playbook, now }) : findCases(database, sought, { playbook, now })
})
