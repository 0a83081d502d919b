import type { MediumPlace } from './open-medium'

/** A passphrase to be tried on the encrypted volumes of a medium. */
export interface UnlockOrder {
  readonly medium: MediumPlace
  readonly passphrase: string
}
