import { numberWords } from '~~/core/local/numbers'
import type { MediumShape, PassProgress, PassShape } from '~~/core/bench/medium'

/** "8 min", "40 s", "3 h": a rough length of time, from seconds. */
export function aboutTime(seconds: number): string {
  if (seconds < 5) return 'a few seconds'
  if (seconds < 55) return `${Math.ceil(seconds / 5) * 5} s`
  if (seconds < 55 * 60) return `${Math.ceil(seconds / 60)} min`
  return `${numberWords(Math.round(seconds / 1800) / 2)} h`
}

/** "about 8 min left": for what is under way. */
export const leftWords = (seconds: number) => (seconds < 5 ? 'a few seconds left' : `about ${aboutTime(seconds)} left`)

/** A medium in one line. */
export function mediumSays({ bytes, volumes, isDevice }: MediumShape): string {
  const systems = volumes.map(
    ({ fileSystem, label }) => `${fileSystem ?? 'unknown file system'}${label ? ` “${label}”` : ''}`,
  )
  return [isDevice ? 'device' : null, sizeWords(bytes), systems.join(' and ') || 'no volume', 'opened read only']
    .filter((one) => one !== null)
    .join(', ')
}

const PHASES: Record<PassProgress['phase'], string> = {
  records: 'of records checked',
  content: 'read',
  joining: 'of fragmented files reassembled',
  checksum: 'of the checksum computed',
}

/** How far a scan is, as a whole percentage. */
export const percentOf = ({ done, of }: PassProgress) => (of === 0 ? 0 : Math.min(100, Math.floor((100 * done) / of)))

/** The state of a scan, in one line. */
export function passSays({ state, says, progress, waitsFor, options }: PassShape): string {
  const kind = options.pass === 'quick' ? 'Quick pass' : 'Deep scan'
  const far = progress ? `${percentOf(progress)}% ${PHASES[progress.phase]}` : 'about to start'
  if (state === 'queued') return `${kind} waits${waitsFor > 0 ? ` for ${countOf(waitsFor, 'other')}` : ''}`
  if (state === 'running') return far
  if (state === 'paused') return `${kind} paused, ${far}`
  if (state === 'failed') return `${kind} failed. ${says}`
  const took = progress ? `, ${aboutTime(progress.seconds)}` : ''
  return state === 'enough' ? `${kind} ended early, ${far}. ${says}` : `${kind} done${took}`
}
