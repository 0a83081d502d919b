import { linkFailure } from '../../core/bench/fault'
import type { Link } from '../../core/bench/link'
import type { LinkSummary } from '../../core/bench/state'

/** A source of links: the media of this machine, the backups in its folders, the helpers. Each is one file, and a line in the registry. */
export interface LinkProvider {
  readonly name: string
  list(): Promise<LinkSummary[]>
  /** the link of this id; null where it belongs to another provider */
  byId(id: string): Promise<Link | null>
}

/** How a read-only link answers actions. `what` begins the sentence, such as "A medium". */
export function onlyRead(what: string): Pick<Link, 'putBack' | 'offer' | 'act'> {
  const refuse = async () => {
    throw linkFailure('not-met', `${what} is only read; nothing is written to it.`)
  }
  return { putBack: refuse, offer: refuse, act: refuse }
}
