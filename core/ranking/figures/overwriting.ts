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

/** Where a set's items lie on a medium that was filled from its start: in the order in which they were made. */
export interface Laid {
  readonly written: number
  /** bytes that could be filled: the whole medium, after a format */
  readonly free: number
  /** bytes of the whole set */
  readonly setBytes: number
}

/**
 * The chance that an item is whole after the first W bytes of a medium were filled anew, by its place in its set: 0 the
 * earliest, 1 the latest. Where the set as a whole began is not known, so it is as likely at any place where it fits.
 */
export function wholeWhereLaid({ written, free, setBytes }: Laid, place: number): number {
  if (written <= 0) return 1
  const within = Math.min(setBytes, free)
  const room = free - within
  const covered = written - place * within
  if (room <= 0) return covered > 0 ? 0 : 1
  return Math.min(1, Math.max(0, 1 - covered / room))
}
