import { z } from 'zod'
import type { Case } from '../cases/shape/case'
import { DEVICE_KINDS, PLATFORMS } from '../cases/shape/device'
import { factAt, type Change } from '../cases/facts/facts'
import { UNKNOWN } from '../cases/shape/fact'
import { STORAGE_KINDS } from '../cases/shape/storage'

/** What the shop knows about a maker or a model: first guesses for facts that nobody has stated. */
export const KnownModel = z.object({
  /** the maker, or maker and model, as people say it; the longest entry that typed text begins with counts */
  make: z.string().trim().min(2).max(80),
  kind: z.enum(DEVICE_KINDS).optional(),
  platform: z.enum(PLATFORMS).optional(),
  storage: z.enum(STORAGE_KINDS).optional(),
  encryption: z.enum(['none', 'whole-device', 'per-file']).optional(),
  /** when freed blocks are erased */
  discard: z.enum(['at-once', 'by-timer', 'off']).optional(),
})
export type KnownModel = z.infer<typeof KnownModel>

/** The entry that typed text refers to, or null. */
export function modelFor(models: readonly KnownModel[], typed: string): KnownModel | null {
  const said = typed.trim().toLowerCase()
  const fitting = models.filter(({ make }) => {
    const known = make.toLowerCase()
    return said === known || said.startsWith(`${known} `)
  })
  return fitting.reduce<KnownModel | null>((so, one) => (!so || one.make.length > so.make.length ? one : so), null)
}

/** The facts that follow from a maker and model, where nobody has said otherwise: first guesses, to be changed like any fact. */
export function guessesFrom(models: readonly KnownModel[], ofCase: Case, deviceId: string, typed: string): Change[] {
  const model = modelFor(models, typed)
  if (!model) return []
  const path = `devices.${deviceId}`
  const guesses: [string, string | undefined][] = [
    [`${path}.kind`, model.kind],
    [`${path}.platform`, model.platform],
    [`${path}.storage.kind`, model.storage],
    [`${path}.storage.encryption`, model.encryption],
    [`${path}.storage.discard`, model.discard],
  ]
  return guesses.flatMap(([fact, is]) => {
    const now = factAt(ofCase, fact) ?? UNKNOWN
    return is !== undefined && now === UNKNOWN ? [{ fact, is }] : []
  })
}
