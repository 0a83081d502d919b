import { readStored } from '../../../../../cases/rows'
import { sessionStream } from '../../../../../http/session-stream'
import { onPassNews, passesOf } from '../../../../../jobs/passes'

/** News is gathered for so long, so that a busy job does not flood the line. */
const GATHER_MS = 300

/** The passes of a case, told whenever something about them is new (server-sent events). */
export default defineRoute({ may: 'work', isBackground: true }, ({ event, param, session }) => {
  const { id } = readStored(useLantern().database, param('code'))
  const stream = sessionStream(event, session)
  const tell = () => stream.push('passes', JSON.stringify(passesOf(id)))
  let gathering: NodeJS.Timeout | null = null
  const stop = onPassNews((caseId) => {
    if (caseId !== id || gathering) return
    gathering = setTimeout(() => {
      gathering = null
      tell()
    }, GATHER_MS)
  })
  stream.onClosed(() => {
    stop()
    if (gathering) clearTimeout(gathering)
  })
  tell()
  return stream.send()
})
