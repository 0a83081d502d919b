import { z } from 'zod'

export const SCHEMES = ['none', 'mbr', 'gpt'] as const

const count = z.int().min(0)

/** A volume of a medium as reports and pages show it; offset and length in bytes. */
export const VolumeShape = z.object({
  index: count,
  scheme: z.enum(SCHEMES),
  fileSystem: z.string().nullable(),
  offset: count,
  bytes: count,
  label: z.string().nullable(),
})
export type VolumeShape = z.infer<typeof VolumeShape>

/** A warning about a medium: where the fault is, and what it is. */
export const ScanWarning = z.object({ where: z.string(), what: z.string() })
export type ScanWarning = z.infer<typeof ScanWarning>
