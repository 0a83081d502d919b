import { fork } from 'node:child_process'
import type { Serializable } from 'node:child_process'
import { jobFile, type JobName } from './files'

/** Has one order done by a process of its own, and returns what it sends; throws an Error where it ends without an answer. `maxMs`: after which it is killed. */
export function askProcess<Answer>(job: JobName, order: Serializable, maxMs?: number): Promise<Answer> {
  return new Promise((done, failed) => {
    const child = fork(jobFile(job), { stdio: ['ignore', 'inherit', 'inherit', 'ipc'] })
    const timer = maxMs === undefined ? undefined : setTimeout(() => child.kill('SIGKILL'), maxMs)
    child.once('message', (answer) => done(answer as Answer))
    child.once('error', failed)
    child.once('exit', () => {
      clearTimeout(timer)
      failed(new Error('The process ended without an answer.'))
    })
    child.send(order)
  })
}
