import type { TrialAnswer } from '../../core/playbook/draft'
import type { Database } from '../db/open'
import { Failure, refused } from '../failure'
import { askProcess } from '../threads/ask-process'
import { readDraft } from './draft'
import type { TrialOrder } from './try-playbook'

/** Longer than hundreds of cases take. */
const MAX_MS = 180_000

/** Which plans the draft would change, and how; nothing is stored. Throws a Failure where there is no draft. */
export async function tryDraft(database: Database, now: number): Promise<TrialAnswer> {
  const draft = readDraft(database)
  if (!draft) throw refused('There is no draft to try.')
  const order = { dataFolder: dataFolder(), draft, now } satisfies TrialOrder
  const answer = await askProcess<TrialAnswer | null>('try-playbook', order, MAX_MS).catch(() => null)
  if (!answer) throw new Failure('broken', 'The draft could not be tried. It is kept as it is.')
  return answer
}
