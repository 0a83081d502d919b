import { z } from 'zod'
import { COPY_KINDS } from '../../cases/shape/copy'
import { DataType } from '../../cases/shape/data-types'
import { BIN_NAMES, DEVICE_KINDS, PLATFORMS } from '../../cases/shape/device'
import { LOSS_KINDS } from '../../cases/shape/loss'
import { Period } from '../../cases/shape/period'
import { STORAGE_KINDS } from '../../cases/shape/storage'

/** Families of routes; odds are learned by kind and by family. */
export const FAMILIES = [
  'look',
  'device-bin',
  'computer-bin',
  'cloud-bin',
  'cloud-library',
  'point-in-time',
  'versions',
  'autosave',
  'cloud-backup-full',
  'computer-backup-full',
  'backup-selective',
  'data-export',
  'ask-sender',
  'scan-medium',
  'phone-rows',
  'lab',
] as const

/** Whether routes of a family open nothing of the client's: somebody else is asked for what they have. */
export const opensNothing = (family: string): boolean => family === 'ask-sender'

const slug = z.string().regex(/^[a-z][a-z0-9-]{1,59}$/)
const sentence = z.string().trim().min(3).max(400)
const fraction = z.number().min(0).max(1)
const minutes = z.number().min(0).max(100_000)
/** What a kind of route reads: the device itself, its storage, or a copy that the case names. */
const Reads = z.discriminatedUnion('from', [
  z.object({
    from: z.literal('device'),
    platforms: z.array(z.enum(PLATFORMS)),
    devices: z.array(z.enum(DEVICE_KINDS)).optional(),
  }),
  z.object({
    from: z.literal('storage'),
    devices: z.array(z.enum(DEVICE_KINDS)),
    /** which removable media of the case it reads too: all, none, or those on such storage */
    media: z.union([z.boolean(), z.array(z.enum(STORAGE_KINDS))]),
  }),
  z.object({ from: z.literal('copy'), kinds: z.array(z.enum(COPY_KINDS)) }),
])

/**
 * How what a route reads comes to hold the items; the engine knows these mechanisms, not the kinds.
 * bin: what was deleted passes through it; library: what had synced is still there; library-bin: what
 * had synced and was deleted since; versions: earlier versions of what had synced; snapshot: what had been made, and not yet lost, when it was taken;
 * storage: what the physics leaves on a medium; person: what was sent or received; place: what was
 * only moved; autosave: what the app kept by itself; rows: deleted rows that a database still carries,
 * fading by half in so many days of use; account: what such an account usually keeps of them; present: what is not
 * lost yet; other-device: what another device still shows; rolling: copies that an app makes again and again, of which the last few are kept; kept-folder: what a fresh system keeps of the one before; nothing:
 * it holds none, and is named so that nobody spends an hour on it.
 */
const Brings = z.discriminatedUnion('by', [
  z.object({ by: z.literal('bin') }),
  z.object({ by: z.literal('library') }),
  z.object({ by: z.literal('library-bin') }),
  z.object({ by: z.literal('versions') }),
  z.object({ by: z.literal('snapshot'), keptBin: Period.optional() }),
  z.object({ by: z.literal('storage'), broken: z.boolean() }),
  z.object({ by: z.literal('person'), share: z.tuple([fraction, fraction, fraction]) }),
  z.object({ by: z.literal('place'), share: z.tuple([fraction, fraction, fraction]) }),
  z.object({ by: z.literal('autosave') }),
  z.object({
    by: z.literal('rows'),
    share: z.tuple([fraction, fraction, fraction]),
    halfLifeDays: z.number().min(1).max(3660),
  }),
  z.object({
    by: z.literal('account'),
    share: z.tuple([fraction, fraction, fraction]),
    /** where the share of a type differs: what an account gives out depends on what it is for */
    shareOf: z.partialRecord(DataType, z.tuple([fraction, fraction, fraction])).optional(),
  }),
  z.object({ by: z.literal('present') }),
  z.object({ by: z.literal('other-device') }),
  z.object({ by: z.literal('rolling') }),
  z.object({ by: z.literal('kept-folder'), share: z.tuple([fraction, fraction, fraction]) }),
  z.object({ by: z.literal('nothing') }),
])
export type Brings = z.infer<typeof Brings>

/** In the order in which they are checked: first the device, then the copy, then people. */
export const GATE_NAMES = [
  'platform',
  'working',
  'disk-out',
  'passcode',
  'cable',
  'exists',
  'where',
  'spare',
  'account',
  'backup-password',
  'bin-on',
  'sync-was-on',
  'sync-was-off',
  'full-size',
  'reduced-size',
  'backup-kept',
  'selective',
  'consent-erase',
  'consent-laboratory',
  'price',
] as const
export type GateName = (typeof GATE_NAMES)[number]

/** Gates that belong to the copy rather than to one route: every route that reads it has to pass them. */
export const ACCESS_GATES: readonly string[] = [
  'platform',
  'working',
  'disk-out',
  'passcode',
  'exists',
  'where',
  'account',
  'backup-kept',
  'backup-password',
] satisfies GateName[]

const Gate = z.object({
  gate: z.enum(GATE_NAMES),
  /** how likely it is met while the fact is unknown: low, mid, high */
  prior: z.tuple([fraction, fraction, fraction]).optional(),
  bin: z.enum(BIN_NAMES).optional(),
  /** how a gate that is not met can still be met */
  cure: z.object({ says: sentence, handsOn: minutes, chance: fraction }).optional(),
})
export type Gate = z.infer<typeof Gate>

const WindowRule = z.discriminatedUnion('rule', [
  z.object({ rule: z.literal('open') }),
  /** kept for a period from the loss */
  z.object({ rule: z.literal('kept'), period: Period }),
  /** until the next automatic run replaces it; where nobody knows when, for about this long after it was taken */
  z.object({ rule: z.literal('replaced'), otherwise: Period.optional() }),
  /** fades by half in this many days of use, as rows in a database do */
  z.object({ rule: z.literal('fades'), halfLifeDays: z.number().min(1).max(3660) }),
  /** until sync carries the loss on */
  z.object({ rule: z.literal('synced') }),
  /** until the medium is used again */
  z.object({ rule: z.literal('reused') }),
  /** until a device that still shows the items is online again */
  z.object({ rule: z.literal('online') }),
  /** until the copies that an app goes on making have replaced the last one from before the loss */
  z.object({ rule: z.literal('rolled'), period: Period }),
])

/** One kind of route, as data: edited by the shop, exported and imported. */
export const RouteKind = z.object({
  id: slug,
  family: z.enum(FAMILIES),
  /** {copy} stands for the copy's own words, {device} for the device's */
  title: z.string().trim().min(3).max(120),
  says: sentence,
  reads: Reads,
  types: z.union([z.literal('all'), z.array(DataType).min(1)]),
  /** the ways of losing that it fits; all where missing */
  losses: z.array(z.enum(LOSS_KINDS)).min(1).optional(),
  /** a prior for whether what it reads contains the type at all, where that is unknown; 1 where missing */
  keeps: z.partialRecord(DataType, fraction).optional(),
  brings: Brings,
  /** which share of existing items this route can find */
  finds: z.object({
    usual: fraction,
    /** of rows in databases, where that differs */
    rows: fraction.optional(),
    /** after a format or a fresh system, where that differs */
    afterFormat: fraction.optional(),
  }),
  gates: z.array(Gate).max(12),
  window: WindowRule,
  /** whether the route must be started or finished before it closes */
  by: z.enum(['begun', 'done']).default('done'),
  effects: z
    .object({
      /** replaces everything on the device */
      erasesDevice: z.boolean().default(false),
      /** writes to the device: this share of what a scan of it could still find is lost */
      spoilsScans: fraction.default(0),
      needsSafetyCopy: z.boolean().default(false),
      /** replaces only newer data of the wanted type; the rest of the device stays */
      turnsBack: z.boolean().default(false),
    })
    .prefault({}),
  time: z.object({
    handsOn: minutes,
    waiting: minutes,
    /** more waiting for every gigabyte that has to be read */
    waitingPerGigabyte: z.number().min(0).max(1000).default(0),
    /** whether the wait keeps the device or a person busy, so that other routes queue behind it */
    occupies: z.boolean(),
  }),
  money: z.object({ look: z.number().min(0), take: z.number().min(0) }),
  prior: z.object({ chance: fraction, weight: z.number().min(0.5).max(1000), note: sentence }),
  /** passes over the same medium, the larger of which includes the smaller */
  nested: slug.optional(),
  /** kinds of hold that protect this route */
  holds: z.array(slug).max(12),
  sheet: z.object({
    ready: z.array(sentence).max(12),
    steps: z.array(sentence).min(1).max(16),
    lookFor: z.array(sentence).max(8),
    stopIf: z.array(sentence).max(8),
  }),
  /** what to tell the client so that it does not happen again */
  aftercare: z.array(sentence).max(6).default([]),
})
export type RouteKind = z.infer<typeof RouteKind>
export type RouteKindInput = z.input<typeof RouteKind>
