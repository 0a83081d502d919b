import { createSHA256, type IHasher } from 'hash-wasm'
import type { Block } from '../../core/sources/watched'
import type { ByteSource } from '../../core/sources/source'
import type { PassNote } from './pass-notes'

type Saved = PassNote['checksum']

/** bytes in one step */
const STEP_BYTES = 1 << 20

/** The SHA-256 of a medium, taken from its first byte to its last, along with a pass and across its interruptions. */
export class PassChecksum {
  /** What was read last: the checksum does not ask the medium for it again. */
  lastBlock: Block = { offset: 0, bytes: new Uint8Array(0) }

  private constructor(
    private readonly image: ByteSource,
    private readonly hasher: IHasher,
    /** taken up to here, in bytes */
    public to: number,
  ) {}

  /** Begins, or resumes from what an earlier job saved. */
  static async of(image: ByteSource, saved: Saved | undefined): Promise<PassChecksum> {
    const hasher = await createSHA256()
    hasher.init()
    if (saved) hasher.load(Buffer.from(saved.state, 'base64'))
    return new PassChecksum(image, hasher, saved?.to ?? 0)
  }

  /** Goes on by one step, at most up to `end` (bytes); false where the medium gives nothing more. */
  step(end: number): boolean {
    const part = this.partAt(this.to, Math.min(STEP_BYTES, end - this.to))
    this.hasher.update(part)
    this.to += part.length
    return part.length > 0
  }

  save(): NonNullable<Saved> {
    return { to: this.to, state: Buffer.from(this.hasher.save()).toString('base64') }
  }

  digest(): string {
    return this.hasher.digest('hex')
  }

  private partAt(offset: number, length: number): Uint8Array {
    const { offset: from, bytes } = this.lastBlock
    if (offset >= from && offset < from + bytes.length) return bytes.subarray(offset - from, offset - from + length)
    return this.image.read(offset, offset < from ? Math.min(length, from - offset) : length)
  }
}
