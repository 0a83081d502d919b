import type { Platform } from '../../core/cases/shape/device'
import type { LossKind } from '../../core/cases/shape/loss'
import { DAY_MS } from '../../core/cases/shape/moment'
import type { EndedRun } from '../../core/ledger/ended-run'
import type { RouteKind } from '../../core/playbook/kinds/route-kind'
import { defaultPlaybook } from '../../core/playbook/playbook'
import { gatePriorOf, oddsOf } from '../../core/ranking/figures/odds'
import { evidenceOf, type RunOutcome } from '../../core/ranking/situation/evidence'
import { chances as chanceFrom } from '../content/chance'

/** A simulated shop whose true odds are drawn from what the playbook believes, and a year of its runs. */
export interface SimulatedYear {
  /** oldest first */
  readonly runs: readonly EndedRun[]
  readonly kinds: readonly RouteKind[]
}

interface Wish {
  readonly seed: number
  readonly runs: number
  /** ms: the end of the year */
  readonly now: number
  /** who did the runs */
  readonly people: readonly string[]
  /** kinds that are run most, the first of them more than the rest; others follow by chance */
  readonly often?: readonly string[]
  /** a kind whose true odds fall by so much after this part of the year */
  readonly falls?: { readonly kind: string; readonly by: number; readonly after: number }
}

const TYPES = ['photos', 'videos', 'documents', 'messages'] as const
/** How closely a platform follows its kind, and a type of data its platform: in runs, as the odds assume it. */
const CLOSENESS = 24
/** Evidence is summed up again after so many runs. */
const BLOCK = 20

/** A year of runs that ends now; the same seed gives the same year. */
export function simulatedYear({ seed, runs: count, now, people, often = [], falls }: Wish): SimulatedYear {
  const random = chanceFrom(seed)
  const { kinds: all } = defaultPlaybook()
  const kinds = all.filter(({ prior }) => prior.chance > 0 && prior.chance < 1)
  const pick = <T>(list: readonly T[]) => list[Math.floor(random() * list.length)]!
  // A few kinds are run every day, most of them now and then.
  const order = kinds
    .map((kind) => [often.includes(kind.id) ? often.indexOf(kind.id) - often.length : random(), kind] as const)
    .sort((one, other) => one[0] - other[0])
  const weights = order.map(([, { id }], at) => (id === falls?.kind ? 1 / 3 : 1 / (at + 2)))
  const sum = weights.reduce((so, weight) => so + weight, 0)
  const truth = new Map<string, number>()
  const drawn = (key: string, mean: number, weight: number) => {
    const before = truth.get(key)
    if (before !== undefined) return before
    const value = betaFrom(random, mean * weight, (1 - mean) * weight)
    truth.set(key, value)
    return value
  }

  const seen: RunOutcome[] = []
  const runs: EndedRun[] = []
  let evidence = evidenceOf([])
  for (let at = 0; at < count; at++) {
    if (at % BLOCK === 0) evidence = evidenceOf(seen)
    let left = random() * sum
    const kind = order[weights.findIndex((weight) => (left -= weight) < 0)]?.[1] ?? kinds[0]!
    const platform = pick(platformsOf(kind))
    const type = pick(kind.types === 'all' ? TYPES : kind.types)
    const gate = random() < 0.4 ? kind.gates.find(({ prior }) => prior !== undefined) : undefined
    const gateChance = gate ? gatePriorOf(kind.id, gate.gate, gate.prior!, evidence)[1] : 1
    const chance = oddsOf(kind, { platform, type }, evidence)[1] * gateChance
    const ofKind = drawn(kind.id, kind.prior.chance, kind.prior.weight)
    const ofPlatform = drawn(`${kind.id}|${platform}`, ofKind, CLOSENESS)
    const steady = drawn(`${kind.id}|${platform}|${type}`, ofPlatform, CLOSENESS)
    const hasFallen = kind.id === falls?.kind && at >= count * falls.after
    const odds = hasFallen ? Math.max(0.01, steady - falls.by) : steady
    const isShut = gate !== undefined && random() >= drawn(`${kind.id}|gate ${gate.gate}`, gate.prior![1], 10)
    // A scan brings a part; a bin has them or not.
    const isPartial = kind.family === 'scan-medium'
    const came = isPartial ? betaFrom(random, odds * 4, (1 - odds) * 4) : random() < odds ? 1 : 0
    const outcome: RunOutcome = {
      kind: kind.id,
      platform,
      type,
      came: isShut ? null : came,
      failedOn: isShut ? gate!.gate : null,
      open: gate ? [gate.gate] : [],
    }
    seen.push(outcome)
    const back = isShut ? 0 : Math.round(came * 120)
    runs.push({
      run: 'r1',
      ended: now - (365 * DAY_MS * (count - at)) / count,
      outcome,
      kind: kind.id,
      platform,
      device: 'unknown',
      type,
      loss: pick(kind.losses ?? USUAL_LOSSES),
      by: pick(people),
      cause: isShut ? 'gate' : null,
      chance,
      place: 1 + Math.floor(random() * 3),
      isFirst: true,
      back,
      whole: back,
      unverified: 0,
      handsOn: Math.round(kind.time.handsOn * (0.5 + random())),
      waiting: Math.round(kind.time.waiting * (0.5 + random())),
      spent: kind.money.look + (came > 0 && !isShut ? kind.money.take : 0),
      charged: 0,
      leftOut: null,
      isTraining: false,
    })
  }
  return { runs, kinds }
}

const DESKTOPS: readonly Platform[] = ['desktop-pc', 'maker-desktop', 'unix-desktop']
const PHONES: readonly Platform[] = ['closed-phone', 'open-phone']
const OF_COMPUTERS: readonly string[] = ['computer-bin', 'versions', 'autosave']

/** On which families of devices a kind is run. */
function platformsOf({ reads, family }: RouteKind): readonly Platform[] {
  if (reads.from === 'device' && reads.platforms.length > 0) return reads.platforms
  if (reads.from !== 'storage') return OF_COMPUTERS.includes(family) ? DESKTOPS : PHONES
  if (reads.devices.includes('camera')) return ['camera', 'removable']
  if (reads.devices.includes('laptop')) return DESKTOPS
  return reads.devices.includes('phone') ? PHONES : ['removable']
}

const USUAL_LOSSES: readonly LossKind[] = ['deleted-singly', 'deleted-in-bulk', 'deleted-in-bulk', 'deleted-past-bin']

/** A draw from a Beta distribution, by two from Gamma distributions (G. Marsaglia and W. Tsang, ACM TOMS 26, 2000). */
function betaFrom(random: () => number, alpha: number, beta: number): number {
  const one = gammaFrom(random, Math.max(alpha, 1e-3))
  const other = gammaFrom(random, Math.max(beta, 1e-3))
  return one / (one + other)
}

function gammaFrom(random: () => number, shape: number): number {
  if (shape < 1) return gammaFrom(random, shape + 1) * random() ** (1 / shape)
  const d = shape - 1 / 3
  const c = 1 / Math.sqrt(9 * d)
  for (;;) {
    const normal = Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random())
    const v = (1 + c * normal) ** 3
    if (v > 0 && Math.log(1 - random()) < 0.5 * normal ** 2 + d - d * v + d * Math.log(v)) return d * v
  }
}
