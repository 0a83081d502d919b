import type { DataType } from '../cases/shape/data-types'
import type { LinkState } from './state'
import { isShut } from './words'

/** What a link says of a gate by itself: met, not met, or nothing. */
export type GateAnswer = 'met' | 'not-met' | null

type Answered = Pick<LinkState, 'kind' | 'state' | 'keeps'>

const byState = ({ state }: Answered, ...closed: LinkState['state'][]): GateAnswer =>
  closed.includes(state) ? 'not-met' : isShut(state) ? null : 'met'

/** How each gate that a link can answer shows in its state. The others need a person. */
const ANSWERS: Record<string, (state: Answered, types: readonly DataType[]) => GateAnswer> = {
  working: (state) => (state.state === 'lost' || state.state === 'asleep' ? null : 'met'),
  passcode: (state) => (state.kind === 'phone' || state.kind === 'computer' ? byState(state, 'locked') : null),
  account: (state) => (state.kind === 'account' ? byState(state, 'signed-out', 'asks-second-factor') : null),
  cable: (state) => (state.kind === 'phone' ? byState(state, 'debugging-off', 'asks-to-trust') : null),
  'backup-password': (state) => (state.kind === 'backups' ? byState(state, 'locked') : null),
  'backup-kept': (state) => (state.keeps.some(({ kind }) => kind === 'backup') ? 'met' : null),
  'bin-on': ({ keeps }, types) => {
    const bins = keeps.filter((keep) => keep.kind === 'bin' && keep.types.some((type) => types.includes(type)))
    return bins.length === 0 ? null : bins.some(({ isOn }) => isOn) ? 'met' : 'not-met'
  },
}

/**
 * Whether a gate of a run is met, as the attached link itself says; null where the link cannot tell. `types`: the wanted
 * types, which decide which bin counts.
 */
export function gateAnswer(gate: string, state: Answered, types: readonly DataType[]): GateAnswer {
  return ANSWERS[gate]?.(state, types) ?? null
}
