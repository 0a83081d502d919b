import { fork } from 'node:child_process'
import type { TrialAnswer } from '../../core/playbook/draft'
import type { Database } from '../db/open'
import { Failure, refused } from '../failure'
import { jobFile } from '../threads/files'
import { readDraft } from './draft'
import type { TrialOrder } from './try-playbook'

/** Longer than hundreds of cases take. */
const MAX_MS = 180_000

/** Which plans the draft would change, and how; nothing is stored. Throws a Failure where there is no draft. */
export function tryDraft(database: Database, now: number): Promise<TrialAnswer> {
  const draft = readDraft(database)
  if (!draft) throw refused('There is no draft to try.')
  return new Promise((done, failed) => {
    const child = fork(jobFile('try-playbook'), { stdio: ['ignore', 'inherit', 'inherit', 'ipc'] })
    const timer = setTimeout(() => child.kill('SIGKILL'), MAX_MS)
    const fail = () => failed(new Failure('broken', 'The draft could not be tried. It is kept as it is.'))
    child.once('message', (answer: TrialAnswer | null) => (answer ? done(answer) : fail()))
    child.once('error', fail)
    child.once('exit', () => {
      clearTimeout(timer)
      fail()
    })
    child.send({ dataFolder: dataFolder(), draft, now } satisfies TrialOrder)
  })
}
