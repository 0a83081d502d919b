import { createEventStream, type H3Event } from 'h3'
import { isStillOpen, onSessionsChanged, type FoundSession } from '../people/sessions'
import { idleMinutes } from '../settings'

/** How often a stream checks that its session is still valid, in case another program ended it. */
const CHECK_MS = 3000
/** Proxies cut a connection that is silent for long. */
const ALIVE_EVERY = 5

interface SessionStream {
  push(event: string, data: string): void
  onClosed(work: () => void): void
  /** the answer of the route */
  send(): Promise<void>
}

/**
 * Server-sent events for a signed-in person. The stream ends with the session: at once where it ended here or the role
 * changed, within seconds where it expired.
 */
export function sessionStream(event: H3Event, session: FoundSession): SessionStream {
  const { database, clock } = useLantern()
  const stream = createEventStream(event)
  const push = (name: string, data: string) => void stream.push({ event: name, data })
  const closed: (() => void)[] = []
  let checks = 0
  const check = () => {
    if (database.$client.open && isStillOpen(database, session, clock.now(), idleMinutes(database))) return true
    void stream.close()
    return false
  }
  const timer = setInterval(() => {
    if (check() && ++checks % ALIVE_EVERY === 0) push('alive', '')
  }, CHECK_MS)
  const stop = onSessionsChanged(() => void check())
  stream.onClosed(() => {
    clearInterval(timer)
    stop()
    for (const work of closed) work()
  })
  return { push, onClosed: (work) => void closed.push(work), send: () => stream.send() }
}
