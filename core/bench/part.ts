import { z } from 'zod'
import type { Case } from '../cases/shape/case'
import { copyWords, deviceWords } from '../cases/telling/words'

/** The kinds of parts of a case: a device, a copy, or an accessory, such as a computer that a phone trusts. */
export const PART_KINDS = ['device', 'copy', 'accessory'] as const
export type PartKind = (typeof PART_KINDS)[number]

/** A part of a case and the link that is attached to it. */
export const BenchPart = z.object({
  part: z.string(),
  kind: z.enum(PART_KINDS),
  words: z.string(),
  link: z.string().nullable(),
})
export type BenchPart = z.infer<typeof BenchPart>

/** The parts of a case to which a link can be attached: devices first, then copies. */
export function partsOf(ofCase: Pick<Case, 'devices' | 'copies'>): Omit<BenchPart, 'link'>[] {
  return [
    ...ofCase.devices.map((device) => ({ part: device.id, kind: 'device' as const, words: deviceWords(device) })),
    ...ofCase.copies.map((copy) => ({ part: copy.id, kind: 'copy' as const, words: copyWords(copy) })),
  ]
}

/** The kind of a part; whatever the case does not name is an accessory. */
export const partKindOf = (ofCase: Pick<Case, 'devices' | 'copies'>, part: string): PartKind =>
  partsOf(ofCase).find((one) => one.part === part)?.kind ?? 'accessory'

/** Devices before copies before accessories, each in the order of their ids. */
export function inOrder<One extends { readonly part: string }>(
  ofCase: Pick<Case, 'devices' | 'copies'>,
  all: readonly One[],
): One[] {
  const rank = ({ part }: One) => PART_KINDS.indexOf(partKindOf(ofCase, part))
  return all.toSorted(
    (one, other) => rank(one) - rank(other) || one.part.localeCompare(other.part, 'en', { numeric: true }),
  )
}
