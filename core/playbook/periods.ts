import { COPY_KIND_WORDS } from '../cases/telling/words'
import { kinds } from './kinds'
import type { Playbook } from './playbook'
import type { Period } from '../cases/shape/period'
import { RouteKind } from './kinds/route-kind'

/** Which period of a kind is meant: its own window, how long a copy lasts, or a bin inside a backup. */
export const PERIOD_NAMES = ['kept', 'until-replaced', 'bin-in-backup'] as const
export type PeriodName = (typeof PERIOD_NAMES)[number]

/** A period of the playbook as it is read and changed by people. */
export interface KeptPeriod {
  readonly kind: string
  readonly which: PeriodName
  /** what is kept, without the words of a case */
  readonly title: string
  readonly period: Period
  /** as shipped; null for a kind that the shop made */
  readonly shipped: Period | null
  readonly note: string
}

/** Every period of a playbook, kind by kind. */
export function periodsOf({ kinds: ofShop }: Playbook): KeptPeriod[] {
  return ofShop.flatMap((kind) => {
    const shipped = SHIPPED.get(kind.id)
    return PERIOD_NAMES.flatMap((which): KeptPeriod[] => {
      const period = periodIn(kind, which)
      if (!period) return []
      return [
        {
          kind: kind.id,
          which,
          title: genericTitle(kind),
          period,
          shipped: shipped ? periodIn(shipped, which) : null,
          note: kind.prior.note,
        },
      ]
    })
  })
}

/** One of a kind's periods, null where it has none of that name. */
export function periodIn(kind: RouteKind, which: PeriodName): Period | null {
  if (which === 'kept') return kind.window.rule === 'kept' ? kind.window.period : null
  if (which === 'until-replaced') return kind.window.rule === 'replaced' ? (kind.window.otherwise ?? null) : null
  return kind.brings.by === 'snapshot' ? (kind.brings.keptBin ?? null) : null
}

/** The same kind with another period; null where it has none of that name. */
export function withPeriod(kind: RouteKind, which: PeriodName, period: Period): RouteKind | null {
  if (periodIn(kind, which) === null) return null
  if (which === 'kept') return { ...kind, window: { rule: 'kept', period } }
  if (which === 'until-replaced') return { ...kind, window: { rule: 'replaced', otherwise: period } }
  return kind.brings.by === 'snapshot' ? { ...kind, brings: { ...kind.brings, keptBin: period } } : null
}

const SHIPPED = new Map(kinds.map((kind) => [kind.id, RouteKind.parse(kind)]))

/** The title of a kind without the words of a case: "Photo bin on the device", "Bin of the cloud library". */
export function genericTitle({ title, reads }: RouteKind): string {
  const words = reads.from === 'copy' && reads.kinds[0] ? COPY_KIND_WORDS[reads.kinds[0]] : mediumWords(reads)
  const copy = words.startsWith('somebody') ? words : `the ${words}`
  const said = title.replace('{device}', 'the device').replace('{copy}', copy)
  return said.charAt(0).toUpperCase() + said.slice(1)
}

/** What a scan reads, as far as its kind says: "card", "stick", "external disk", else "medium". */
function mediumWords(reads: RouteKind['reads']): string {
  if (reads.from !== 'storage' || typeof reads.media === 'boolean') return 'medium'
  if (reads.media.length === 1 && (reads.media[0] === 'card' || reads.media[0] === 'stick')) return reads.media[0]
  return reads.devices.length === 1 && reads.devices[0] === 'external-disk' ? 'external disk' : 'medium'
}
