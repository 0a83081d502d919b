/** Mean length in bytes of the runs in which systems write, where the playbook does not say. */
export const USUAL_RUN_BYTES = 4_000_000

export interface Overwriting {
  /** bytes written since the loss */
  readonly written: number
  /** bytes that were free right after the loss */
  readonly free: number
  /** length in bytes of one wanted file */
  readonly fileBytes: number
  readonly runBytes?: number
}

/**
 * Probability that a deleted file is still whole after W bytes were written in runs of mean length b
 * into F free bytes: exp(−(W/b)(L+b)/F), Poisson covering of the line (P. Hall, Introduction to the
 * Theory of Coverage Processes, 1988, §2.2). W counts up to F.
 */
export function wholeAfterWriting({ written, free, fileBytes, runBytes = USUAL_RUN_BYTES }: Overwriting): number {
  if (written <= 0) return 1
  if (free <= 0) return 0
  const bounded = Math.min(written, free)
  return Math.exp((-(bounded / runBytes) * (fileBytes + runBytes)) / free)
}

/** The same where the system fills the medium from its start, as on a freshly formatted card: the first W bytes are gone. */
export function wholeAfterFilling(written: number, free: number): number {
  if (written <= 0) return 1
  return free <= 0 ? 0 : Math.max(0, 1 - written / free)
}
