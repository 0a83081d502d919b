import { z } from 'zod'

/** `found`: a volume that no table names. */
export const SCHEMES = ['none', 'mbr', 'gpt', 'found'] as const

/**
 * What is known of a volume. `read`: its records are read. `damaged`: they are, with faults. `known`: its file system is recognised
 * and not read. `encrypted`: nothing on it can be read without its key. `container`: it holds a medium in another form.
 * `empty`: nothing was ever written, or all was erased. `cut`: the image ends before it does. `unknown`: nothing was recognised.
 */
export const VERDICTS = ['read', 'damaged', 'known', 'encrypted', 'container', 'empty', 'cut', 'unknown'] as const
export type Verdict = (typeof VERDICTS)[number]

const count = z.int().min(0)

/** A volume of a medium as reports and pages show it; offset and length in bytes. */
export const VolumeShape = z.object({
  index: count,
  scheme: z.enum(SCHEMES),
  fileSystem: z.string().nullable(),
  offset: count,
  bytes: count,
  label: z.string().nullable(),
  verdict: z.enum(VERDICTS),
  /** the verdict in words */
  says: z.string(),
  /** `closed`: a passphrase opens it here; `opened`: one has; null where there is nothing to open */
  lock: z.enum(['closed', 'opened']).nullable(),
})
export type VolumeShape = z.infer<typeof VolumeShape>

/** Whether there is more to know of a volume than that it is read. */
export const isTelling = ({ verdict, scheme, lock }: VolumeShape) =>
  verdict !== 'read' || scheme === 'found' || lock !== null

/** A warning about a medium: where the fault is, and what it is. */
export const ScanWarning = z.object({ where: z.string(), what: z.string() })
export type ScanWarning = z.infer<typeof ScanWarning>
