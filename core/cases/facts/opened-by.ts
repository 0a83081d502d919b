import type { Case } from '../shape/case'
import type { Copy } from '../shape/copy'
import { known } from '../shape/fact'
import type { Secret } from '../shape/secret'
import type { FactPath } from './facts'

/** Whether the client knows what opens a copy, and the path of the fact that says so. */
export interface OpenedBy {
  readonly state: Secret['state']
  readonly path: FactPath
}

/** The account that a copy is in: its own, or the one that it shares with others. */
export function accountOf(copy: Copy, { secrets }: Pick<Case, 'secrets'>): OpenedBy {
  const shared = known(copy.accountOf) ? secrets.find((secret) => secret.id === copy.accountOf) : undefined
  return shared
    ? { state: shared.state, path: `secrets.${shared.id}.state` }
    : { state: copy.account, path: `copies.${copy.id}.account` }
}

/** The password that opens a copy: its own, or the one that opens others too. */
export function passwordOf(copy: Copy, { secrets }: Pick<Case, 'secrets'>): OpenedBy {
  const shared = known(copy.passwordOf) ? secrets.find((secret) => secret.id === copy.passwordOf) : undefined
  // A password that is said to be known has not opened anything yet.
  const state = shared?.state === 'known' ? 'thought-known' : shared?.state
  return shared && state !== undefined
    ? { state, path: `secrets.${shared.id}.state` }
    : { state: copy.password, path: `copies.${copy.id}.password` }
}
