import { z } from 'zod'
import { instant } from '../cases/shape/moment'
import { name, text } from '../cases/shape/fact'
import { sameValue } from '../cases/shape/same-value'
import type { Fault } from '../cases/shape/faults'
import { RouteKind } from './kinds/route-kind'
import { FieldClash, mergedKind, nextBase, withField } from './merging'
import { PERIOD_NAMES, withPeriod } from './periods'
import { Period } from '../cases/shape/period'
import type { Playbook } from './playbook'
import { clashesOf, shippedKinds } from './up-to-date'

/** Changes to kinds of routes that are tried before they are taken: kinds as they will be, and kinds that go. */
export const Draft = z.object({
  kinds: z.array(RouteKind).max(200).default([]),
  removed: z.array(z.string().max(60)).max(200).default([]),
  /** clashes that are settled as the shop has it */
  settled: z
    .array(z.object({ kind: z.string().max(60), field: z.string().max(60) }))
    .max(500)
    .default([]),
  by: name(80),
  at: instant,
})
export type Draft = z.infer<typeof Draft>

/** One change to the draft. */
export const DraftChange = z.discriminatedUnion('what', [
  /** a kind as it will be; a new one where the playbook has none of that id */
  z.object({ what: z.literal('kind'), kind: RouteKind }),
  z.object({ what: z.literal('period'), kind: z.string().max(60), which: z.enum(PERIOD_NAMES), period: Period }),
  /** takes out a kind of the shop's own */
  z.object({ what: z.literal('remove'), kind: z.string().max(60) }),
  /** a kind as it is in the playbook again */
  z.object({ what: z.literal('drop'), kind: z.string().max(60) }),
  /** a shipped kind as it ships now */
  z.object({ what: z.literal('shipped'), kind: z.string().max(60) }),
  /** settles a clash: the field as it ships now, or as the shop has it */
  z.object({
    what: z.literal('settle'),
    kind: z.string().max(60),
    field: z.string().max(60),
    takes: z.enum(['own', 'shipped']),
  }),
])
export type DraftChange = z.infer<typeof DraftChange>

export type Drafted = { readonly ok: true; readonly draft: Draft } | { readonly ok: false; readonly fault: Fault }

/** The playbook as it will be with a draft; of kinds that it changes, what a later version is merged against. */
export function withDraft(
  playbook: Playbook,
  { kinds, removed, settled }: Pick<Draft, 'kinds' | 'removed' | 'settled'>,
): Playbook {
  const changed = new Map(kinds.map((kind) => [kind.id, kind]))
  const before = new Set(playbook.kinds.map(({ id }) => id))
  const bases = new Map(playbook.bases.map((kind) => [kind.id, kind]))
  for (const shipped of shippedKinds()) {
    const { id } = shipped
    const base = bases.get(id)
    const isSettled = (field: string) => settled.some((one) => one.kind === id && one.field === field)
    const next = changed.get(id) ?? playbook.kinds.find((kind) => kind.id === id)
    if (!next) continue
    // A kind that is as shipped again needs no base.
    if (sameValue(next, shipped)) bases.delete(id)
    else if (base) bases.set(id, nextBase(base, mergedKind(base, next, shipped), shipped, isSettled))
    else if (changed.has(id)) bases.set(id, shipped)
  }
  return {
    ...playbook,
    kinds: [
      ...playbook.kinds.map((kind) => changed.get(kind.id) ?? kind).filter(({ id }) => !removed.includes(id)),
      ...kinds.filter(({ id }) => !before.has(id)),
    ],
    bases: [...bases.values()],
  }
}

/** A draft with one more change, or what is wrong with it. */
export function withChange(playbook: Playbook, draft: Draft, change: DraftChange): Drafted {
  const now = withDraft(playbook, draft)
  const wrong = (path: string, message: string): Drafted => ({ ok: false, fault: { path, message } })
  const id = change.what === 'kind' ? change.kind.id : change.kind
  const there = now.kinds.find((kind) => kind.id === id)
  const shipped = shippedKinds().find((kind) => kind.id === id)
  const without: Draft = {
    ...draft,
    kinds: draft.kinds.filter((kind) => kind.id !== id),
    removed: draft.removed.filter((one) => one !== id),
    settled: change.what === 'drop' ? draft.settled.filter((one) => one.kind !== id) : draft.settled,
  }
  const as = (kind: RouteKind): Drafted => {
    const isSame = playbook.kinds.some((one) => one.id === id && sameValue(one, kind))
    return { ok: true, draft: isSame ? without : { ...without, kinds: [...without.kinds, kind] } }
  }
  if (change.what === 'kind') {
    const nested = change.kind.nested
    if (nested !== undefined && !now.kinds.some((kind) => kind.id === nested))
      return wrong('kind.nested', 'is no kind of route')
    return as(change.kind)
  }
  if (change.what === 'drop') return { ok: true, draft: without }
  if (!there) return wrong('kind', 'is not in the playbook')
  if (change.what === 'period') {
    const changed = withPeriod(there, change.which, change.period)
    return changed ? as(changed) : wrong('kind', 'has no such period')
  }
  if (change.what === 'remove') {
    if (shipped) return wrong('kind', 'ships with the program and cannot be removed')
    const user = now.kinds.find((kind) => kind.nested === id)
    if (user) return wrong('kind', `is part of ${user.id}`)
    const isOnlyHere = !playbook.kinds.some((kind) => kind.id === id)
    return { ok: true, draft: isOnlyHere ? without : { ...without, removed: [...without.removed, id] } }
  }
  if (!shipped) return wrong('kind', 'does not ship with the program')
  if (change.what === 'shipped') return as(shipped)
  const clash = clashesOf(now).find(({ kind, field }) => kind === id && field === change.field)
  if (!clash) return wrong('field', 'does not clash')
  if (change.takes === 'shipped') return as(withField(there, change.field, clash.shipped))
  return { ok: true, draft: { ...draft, settled: [...draft.settled, { kind: id, field: change.field }] } }
}

/** Takes over a draft, or goes back to an earlier version, with the reason for it. */
export const WithReason = z.object({ reason: text(400).min(1, 'is empty; say why') })

/** A version of the playbook that was: who made it, when, and why. */
export const PlaybookVersion = z.object({ id: z.int(), at: instant, by: z.string(), reason: z.string() })
export type PlaybookVersion = z.infer<typeof PlaybookVersion>

/** One plan that a draft changes, in words. */
const Effect = z.object({
  /** code of the case, or name of the worked case */
  name: z.string(),
  about: z.string(),
  next: z.tuple([z.string().nullable(), z.string().nullable()]).readonly(),
  expected: z.tuple([z.number(), z.number()]).readonly().nullable(),
  /** sentences: what else changes, or what a worked case now contradicts */
  says: z.array(z.string()),
})
export type Effect = z.infer<typeof Effect>

/** What a draft would change: plans of open cases, and worked cases that would no longer come out as they should. */
export const TrialAnswer = z.object({
  open: z.array(Effect),
  openCount: z.int(),
  worked: z.array(Effect),
  workedCount: z.int(),
})
export type TrialAnswer = z.infer<typeof TrialAnswer>

/** The draft and what is to be known beside it. */
export const DraftAnswer = z.object({
  draft: Draft.nullable(),
  clashes: z.array(FieldClash),
})
export type DraftAnswer = z.infer<typeof DraftAnswer>
export const VersionList = z.array(PlaybookVersion)
