import { watchBench } from '../../../../bench/watch'
import { readStored } from '../../../../cases/rows'
import { sessionStream } from '../../../../http/session-stream'
import { onPassNews } from '../../../../passes/pass-news'
import { passesOf } from '../../../../passes/pass-shapes'

/** News is collected for this long, so that a busy job does not flood the connection. */
const GATHER_MS = 300

/** Changes of the bench of a case and the progress of its scans, as they happen (server-sent events). */
export default defineRoute({ answers: null, may: 'work', isBackground: true }, ({ event, param, session }) => {
  const { id } = readStored(useLantern().database, param('code'))
  const stream = sessionStream(event, session)
  const tellPasses = () => stream.push('passes', JSON.stringify(passesOf(id)))
  let gathering: NodeJS.Timeout | null = null
  const stopPasses = onPassNews((caseId) => {
    if (caseId !== id || gathering) return
    gathering = setTimeout(() => {
      gathering = null
      tellPasses()
    }, GATHER_MS)
  })
  const stopBench = watchBench(param('code'), (news) => stream.push('bench', JSON.stringify(news)))
  stream.onClosed(() => {
    stopPasses()
    stopBench()
    if (gathering) clearTimeout(gathering)
  })
  tellPasses()
  return stream.send()
})
