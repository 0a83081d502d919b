import type { FindGiven, FindOrder, FindOrderName, FindResult } from './find-orders'
import { WorkerLine } from '../threads/worker-line'

let line: WorkerLine | null = null

/** Runs a query of a found list in the worker thread for long lists, which is started where there is none. */
export function askFinds<Name extends FindOrderName>(name: Name, ...given: FindGiven<Name>): Promise<FindResult<Name>> {
  line ??= new WorkerLine('count-finds', { dataFolder: dataFolder() }, () => (line = null))
  return line.ask<FindResult<Name>>({ name, given } satisfies FindOrder)
}
