import type { FindGiven, FindOrder, FindOrderName, FindResult } from './find-orders'
import { WorkerLine } from '../threads/worker-line'

let line: WorkerLine | null = null

/** Has something done with a found list in the thread for such; begun where there is none. */
export function askFinds<Name extends FindOrderName>(name: Name, ...given: FindGiven<Name>): Promise<FindResult<Name>> {
  line ??= new WorkerLine('count-finds', { dataFolder: dataFolder() }, () => (line = null))
  return line.ask<FindResult<Name>>({ name, given } satisfies FindOrder)
}
