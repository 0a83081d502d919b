import { numberWords } from '~~/core/local/numbers'
import { isTelling, type Verdict, type VolumeShape } from '~~/core/volumes/filesystems/volume-shape'
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

/** What stands in place of a file system that is not read. */
const NOT_READ: Record<Verdict, string> = {
  read: 'unknown file system',
  damaged: 'unknown file system',
  unknown: 'unknown file system',
  cut: 'unknown file system',
  known: 'a file system that is not read here',
  encrypted: 'encrypted',
  container: 'an image in another form',
  empty: 'empty',
}

/** The file system of a volume, or what stands in its place. */
export const systemSays = ({ fileSystem, verdict }: Pick<VolumeShape, 'fileSystem' | 'verdict'>) =>
  fileSystem ??
  (verdict === 'unknown' || verdict === 'known'
    ? `${NOT_READ[verdict]}: only the content can be scanned`
    : NOT_READ[verdict])

/** What the technician has to know of the volumes: all that are not simply read. Sorted by what it means for the job. */
export function volumeSays({ volumes }: MediumShape): { key: number; says: string; isGrave: boolean }[] {
  return volumes.filter(isTelling).map(({ index, says, label, offset, scheme, verdict }) => {
    const lost = scheme === 'found' ? 'Lost volume, named by no table. ' : ''
    const place = volumes.length > 1 ? `${label ? `“${label}”` : `Volume ${index + 1}`} at ${sizeWords(offset)}: ` : ''
    return { key: index, says: `${place}${lost}${says}`, isGrave: GRAVE.has(verdict) }
  })
}

const GRAVE: ReadonlySet<Verdict> = new Set<Verdict>(['encrypted', 'container', 'cut'])

/** "62 MB/s, the medium is the limit": how fast content is read, and what holds it up. Null before there is a basis for it. */
export function rateSays({ phase, of, done, secondsLeft, seconds, readSeconds }: PassProgress): string | null {
  if (phase !== 'content' || secondsLeft === null || secondsLeft <= 0 || seconds < 2) return null
  const rate = (of - done) / secondsLeft / 1e6
  const limit = readSeconds > seconds * 0.6 ? 'the medium is the limit' : 'checking files is the limit'
  return `${numberWords(rate < 10 ? Math.round(rate * 10) / 10 : Math.round(rate))} MB/s, ${limit}`
}

/** A medium in one line. */
export function mediumSays({ bytes, volumes, isDevice }: MediumShape): string {
  const hasLost = volumes.some(({ scheme }) => scheme === 'found')
  // What was found lies in what is not known.
  const told = volumes.filter(({ verdict }) => !(hasLost && verdict === 'unknown'))
  const systems = told.map(
    ({ fileSystem, label, verdict, scheme }) =>
      `${scheme === 'found' ? 'lost ' : ''}${fileSystem ?? NOT_READ[verdict]}${label ? ` “${label}”` : ''}`,
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
