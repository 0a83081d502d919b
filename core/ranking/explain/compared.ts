import { emptyCase, type Case } from '../../cases/shape/case'
import { Copy, COPY_KINDS, type CopyKind } from '../../cases/shape/copy'
import { isBareMedium, isHandheld, type Device } from '../../cases/shape/device'
import { UNKNOWN } from '../../cases/shape/fact'
import { isoOf } from '../../cases/shape/moment'
import { bindingsOf } from '../../playbook/bind'
import { FAMILIES, type RouteKind } from '../../playbook/kinds/route-kind'
import { genericTitle } from '../../playbook/periods'
import type { Playbook } from '../../playbook/playbook'
import { optionOf, type RouteOption } from '../figures/options'
import { oddsOf } from '../figures/odds'
import { axesOf } from '../situation/axis'
import type { Estimate } from '../situation/estimate'
import { routeTallies, type Evidence } from '../situation/evidence'
import { situationOf } from '../situation/situation'
import { GATE_WORDS } from './sheet'

/** A kind of route as it compares with others, for one kind of device and loss and for no particular case. */
export interface ComparedRoute {
  readonly kind: string
  readonly family: (typeof FAMILIES)[number]
  readonly title: string
  readonly says: string
  /** what has to be true before it works */
  readonly needs: readonly string[]
  /** when it closes, as instants, and in words */
  readonly closes: readonly [string | null, string | null]
  readonly open: string
  /** how often it works when everything is in place, with its range */
  readonly chance: Estimate
  /** the share of what is wanted that it usually brings when it works */
  readonly share: Estimate
  /** this shop's own runs of the kind behind the chance */
  readonly runs: number
  /** in minutes */
  readonly handsOn: number
  readonly waiting: number
  /** in the shop's currency: to look, and to take what is found */
  readonly money: { readonly look: number; readonly take: number }
  /** what it puts at risk, in sentences; empty where it changes nothing */
  readonly risks: readonly string[]
  /** why it brings nothing after such a loss; null where it can */
  readonly closedBy: string | null
}

/** What is compared: the case's first device, first wanted set and loss; copies and people are taken as there. */
export type ComparedFor = Pick<Case, 'devices' | 'wanted' | 'loss'>

/**
 * Every kind of route for such a device and loss, family by family, those that can bring something first. Each kind of
 * copy is taken to exist, since which exist is a matter of the case.
 */
export function comparedRoutes(
  asked: ComparedFor,
  playbook: Playbook,
  evidence: Evidence,
  now: number,
): ComparedRoute[] {
  const ofCase = withEveryCopy(asked)
  const situation = situationOf(ofCase, playbook, now, evidence)
  const axes = axesOf(ofCase, playbook.shop.weights)
  const options = bindingsOf(ofCase, playbook).map((binding) => optionOf(binding, axes, situation))
  // A kind that reads several things is open where one of them is.
  const byKind = new Map<string, RouteOption>()
  for (const option of options) {
    const before = byKind.get(option.binding.kind.id)
    if (!before || before.closedBy !== null) byKind.set(option.binding.kind.id, option)
  }
  const place = ({ family }: ComparedRoute) => FAMILIES.indexOf(family)
  return [...byKind.values()]
    .map((option) => compared(option, ofCase, evidence))
    .sort((one, other) => Number(one.closedBy !== null) - Number(other.closedBy !== null) || place(one) - place(other))
}

function withEveryCopy({ devices, wanted, loss }: ComparedFor): Case {
  const device = devices[0]
  return {
    ...emptyCase(),
    devices: device ? [{ ...device, spare: 'yes' }] : [],
    // Which device of the case it was on, and where it happened, says nothing of others.
    wanted: wanted.slice(0, 1).map((set) => ({ ...set, on: UNKNOWN })),
    loss: { ...loss, on: UNKNOWN },
    copies: COPY_KINDS.filter((kind) => !device || canHave(device, kind)).map((kind, index) =>
      Copy.parse({ id: `c${index + 1}`, kind }),
    ),
  }
}

/** Kinds of copies that only computers have, or only handhelds, or that a bare medium has nothing to do with. */
const OF_COMPUTERS: readonly CopyKind[] = [
  'file-history',
  'earlier-versions',
  'snapshot-timeline',
  'system-image',
  'restore-point',
  'bookmark-archive',
]
const OF_HANDHELDS: readonly CopyKind[] = ['trusted-computer', 'sim-card', 'cloud-backup', 'app-copies']
const OF_ACCOUNTS: readonly CopyKind[] = ['contact-archive', 'mail-account', 'social-account', 'other-device']

function canHave(device: Device, kind: CopyKind): boolean {
  if (isHandheld(device)) return !OF_COMPUTERS.includes(kind)
  if (isBareMedium(device)) return ![...OF_COMPUTERS, ...OF_HANDHELDS, ...OF_ACCOUNTS].includes(kind)
  return !OF_HANDHELDS.includes(kind)
}

function compared(option: RouteOption, ofCase: Case, evidence: Evidence): ComparedRoute {
  const { kind, device } = option.binding
  const asked = { platform: device?.platform ?? 'unknown', type: ofCase.wanted[0]?.type ?? 'unknown' }
  const { window } = option
  return {
    kind: kind.id,
    family: kind.family,
    title: genericTitle(kind),
    says: kind.says,
    needs: kind.gates.map(({ gate }) => GATE_WORDS[gate]),
    closes: [
      window.earliest === null ? null : isoOf(window.earliest),
      window.latest === null ? null : isoOf(window.latest),
    ],
    open: window.says(),
    chance: oddsOf(kind, asked, evidence),
    share: option.meanShare,
    runs: routeTallies(evidence, kind.id, asked.platform, asked.type).reduce((sum, { runs }) => sum + runs, 0),
    handsOn: kind.time.handsOn,
    waiting: kind.time.waiting,
    money: kind.money,
    risks: risksOf(kind),
    closedBy: closedByLoss(option),
  }
}

/** What closes a kind of route after such a loss; facts of copies and of people are left open here and close none. */
function closedByLoss({ closedBy, ...option }: RouteOption): string | null {
  if (closedBy === null) return null
  const deciding = [...option.chanceFactors, ...option.shareFactors()].find(({ value }) => value[1] <= 1e-6)
  const isOfTheCase = deciding?.fact?.startsWith('copies.') || deciding?.fact?.startsWith('consent.')
  return isOfTheCase ? null : closedBy
}

/** What a kind of route puts at risk, by the effects that it declares. */
export function risksOf({ effects, family, window }: RouteKind): string[] {
  const risks: string[] = []
  if (effects.erasesDevice)
    risks.push(
      'Erases the device: all that is newer than the backup goes. A verified safety copy and consent come first.',
    )
  if (effects.turnsBack) risks.push('Replaces what is newer of this kind. Today’s list is saved first.')
  if (effects.spoilsScans > 0 && !effects.erasesDevice)
    risks.push(
      `Writes to the device: up to ${Math.round(effects.spoilsScans * 100)}% of what a scan could find is lost.`,
    )
  if (window.rule === 'synced') risks.push('If sync goes on meanwhile, it passes the loss on.')
  if (window.rule === 'online') risks.push('If the device goes online, it loses them too.')
  if (family === 'lab') risks.push('Somebody else sees the data; a medium that was opened is not used again.')
  return risks
}
