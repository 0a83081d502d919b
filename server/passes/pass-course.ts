import type { PassProgress } from '../../core/bench/medium'
import type { PatientSource } from '../../core/sources/patient-source'
import type { FoundRows } from './found-rows'

const MAX_BAD_PLACES = 400

type Where = Pick<PassProgress, 'phase' | 'done' | 'of'>

/** How far a pass has come: its phase, the estimate of the time that is left, and what an earlier job had done. */
export class PassCourse {
  bytesRead = 0
  /** ms that were waited for the medium */
  readMs = 0
  /** how far the content was scanned, in bytes */
  at: number
  private where: Where = { phase: 'records', done: 0, of: 0 }
  /** for the estimate: how much of this phase was done when this job reached it, and when */
  private phaseBegan = { phase: '', done: 0, at: 0 }
  private readonly began: number

  /** `before`: how far the job before this one came; `clock`: ms, from any zero */
  constructor(
    private readonly before: PassProgress | null,
    at: number,
    private readonly clock: () => number,
  ) {
    this.at = at
    this.began = clock()
  }

  get phase(): PassProgress['phase'] {
    return this.where.phase
  }

  move(where: Where): void {
    this.where = where
    if (this.phaseBegan.phase !== where.phase)
      this.phaseBegan = { phase: where.phase, done: where.done, at: this.clock() }
  }

  /** What the pages show, with what was found so far and what could not be read. */
  progress(rows: FoundRows, image: PatientSource): PassProgress {
    const now = this.clock()
    const { phase, done, of } = this.where
    const seconds = (now - this.phaseBegan.at) / 1000
    const come = done - this.phaseBegan.done
    const unreadable = image.unreadable()
    return {
      phase,
      done,
      of,
      at: Math.min(this.at, image.size),
      found: rows.size,
      byType: Object.fromEntries(rows.byType),
      wanted: rows.wanted,
      bytesRead: (this.before?.bytesRead ?? 0) + this.bytesRead,
      seconds: (this.before?.seconds ?? 0) + (now - this.began) / 1000,
      readSeconds: (this.before?.readSeconds ?? 0) + this.readMs / 1000,
      secondsLeft: seconds > 0.5 && come > 0 ? ((of - done) * seconds) / come : null,
      unreadable: unreadable.slice(0, MAX_BAD_PLACES).map(([offset, length]) => [offset, length]),
      unreadableBytes: unreadable.reduce((sum, [, length]) => sum + length, 0),
    }
  }
}
