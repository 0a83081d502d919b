import { onPassNews, passesOf } from '../../../../../jobs/passes'
import { readStored } from '../../../../../cases/rows'

/** News is gathered for so long, so that a busy job does not flood the line. */
const GATHER_MS = 300
/** A line on which nothing is said for long is cut by what stands between. */
const ALIVE_MS = 15_000

/** The passes of a case, told whenever something about them is new (server-sent events). */
export default defineRoute({}, ({ event, param }) => {
  const { id } = readStored(useLantern().database, param('code'))
  const stream = createEventStream(event)
  const tell = () => void stream.push({ event: 'passes', data: JSON.stringify(passesOf(id)) })
  let gathering: NodeJS.Timeout | null = null
  const stop = onPassNews((caseId) => {
    if (caseId !== id || gathering) return
    gathering = setTimeout(() => {
      gathering = null
      tell()
    }, GATHER_MS)
  })
  const alive = setInterval(() => void stream.push({ event: 'alive', data: '' }), ALIVE_MS)
  stream.onClosed(() => {
    stop()
    clearInterval(alive)
    if (gathering) clearTimeout(gathering)
  })
  tell()
  return stream.send()
})
