import type { ByteSource } from '../sources/source'
import type { ScanWarning } from './filesystems/volume-shape'
import { LuksFault } from './luks/header'
import type { OpenedVolume } from './luks/opened'
import { unlock } from './luks/unlock'
import { findVolumes } from './volumes'

/** Said of a volume that stays closed for these passphrases. */
export const OPENS_NONE = 'the passphrase opens none of its key slots'

/** What came of trying to open the encrypted volumes of an image. */
export interface Unlocked {
  /** how many there are that a passphrase opens */
  readonly locked: number
  readonly opened: readonly OpenedVolume[]
  /** why others stayed closed */
  readonly faults: readonly ScanWarning[]
}

/** Tries these passphrases on every volume of an image that a passphrase opens. What is read of the image is not changed. */
export async function unlockVolumes(image: ByteSource, passphrases: readonly Uint8Array[]): Promise<Unlocked> {
  const locked = findVolumes(image).volumes.filter(({ shape }) => shape.lock === 'closed')
  const opened: OpenedVolume[] = []
  const faults: ScanWarning[] = []
  for (const { shape } of locked) {
    const where = `volume ${shape.index}`
    try {
      const own = await firstOf(passphrases, (one) => unlock(image, [shape.offset, shape.bytes], one))
      if (own) opened.push(own)
      else faults.push({ where, what: OPENS_NONE })
    } catch (error) {
      if (!(error instanceof LuksFault)) throw error
      faults.push({ where, what: `the encrypted volume ${error.message}` })
    }
  }
  return { locked: locked.length, opened, faults }
}

async function firstOf<One, Result>(all: readonly One[], ask: (one: One) => Promise<Result | null>) {
  for (const one of all) {
    const found = await ask(one)
    if (found !== null) return found
  }
  return null
}
