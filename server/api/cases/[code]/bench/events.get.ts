import { watchBench } from '../../../../bench/watch'
import { readStored } from '../../../../cases/rows'
import { sessionStream } from '../../../../http/session-stream'
import { onPassNews } from '../../../../passes/pass-news'
import { passesOf } from '../../../../passes/pass-shapes'

/** News is gathered for so long, so that a busy job does not flood the line. */
const GATHER_MS = 300

/** What is new on the bench of a case, and how its passes go, said as it changes (server-sent events). */
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
