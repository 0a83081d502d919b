import { NamedPaths } from '../../../../core/bench/answers'
import { nameable } from '../../../../disk/nameable'
import { liesOnSource } from '../../../../disk/same-medium'
import { invalid } from '../../../failure'
import { namedPaths, namePaths } from '../../../links/register'
import { logForPerson } from '../../../people/log-for-person'

/**
 * The images and block devices that may be read here; the owner names them. A known one may be missing at the moment.
 */
export default defineRoute({ answers: NamedPaths, may: 'playbook', body: NamedPaths }, ({ event, person, body }) => {
  const before = new Set(namedPaths())
  const real = body.paths.map((path) => (before.has(path) ? path : allowed(path)))
  namePaths([...new Set(real)])
  logForPerson(event, person, { event: 'media-named' })
  return { paths: namedPaths() }
})

function allowed(path: string): string {
  const fault = (message: string) => invalid([{ path, message }])
  const named = nameable(path, 'medium', dataFolder())
  if ('fault' in named) throw fault(named.fault)
  if (liesOnSource(dataFolder(), named.path)) throw fault('holds the shop’s own data; a source must not be written to')
  return named.path
}
