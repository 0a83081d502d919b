import type { MediumPlace } from '../threads/open-medium'

/** A medium that may be read here. */
export interface Medium {
  readonly id: string
  readonly title: string
  /** as the owner named it; null for a medium in the media folder or of the stand-ins */
  readonly path: string | null
  /** 0 where the size is known only after opening it */
  readonly bytes: number
  readonly isDevice: boolean
  readonly isStandIn: boolean
  readonly place: MediumPlace
  /** changes when the medium is exchanged or written to, and when encrypted volumes on it are opened */
  readonly stamp: string
  /** the same as it is without its passphrase; null where nothing on it was opened */
  readonly closed: Medium | null
}
