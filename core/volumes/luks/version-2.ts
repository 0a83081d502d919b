import { createHash } from 'node:crypto'
import { z } from 'zod'
import type { Reader } from '../../sources/reader'
import type { Extent } from '../../sources/source'
import { LuksFault, textOf, type Digest, type KeyFunction, type KeySlot, type LuksHeader } from './header'

const BINARY_BYTES = 4096
const MAX_HEADER_BYTES = 4 * 1024 * 1024
/** As many as the format allows. */
const MAX_SLOTS = 32
const CHECKSUM_AT = 448
const CHECKSUM_BYTES = 64

const count = z.int().min(0)
/** Sizes and offsets are written as text, since they may be longer than a number of the format. */
const size = z
  .string()
  .regex(/^\d{1,15}$/)
  .transform(Number)
const base64 = z.base64().transform((text) => Uint8Array.from(Buffer.from(text, 'base64')))
const number = z.string().regex(/^\d{1,3}$/)

const Kdf = z.discriminatedUnion('type', [
  z.object({ type: z.literal('pbkdf2'), hash: z.string(), iterations: count, salt: base64 }),
  z.object({ type: z.enum(['argon2i', 'argon2id']), time: count, memory: count, cpus: count, salt: base64 }),
])
const Slot = z.object({
  type: z.literal('luks2'),
  key_size: count,
  priority: count.optional(),
  af: z.object({ type: z.literal('luks1'), stripes: count, hash: z.string() }),
  area: z.object({ type: z.literal('raw'), offset: size, size, encryption: z.string(), key_size: count }),
  kdf: Kdf,
})
const Crypt = z.object({
  type: z.literal('crypt'),
  offset: size,
  size: z.union([z.literal('dynamic'), size]),
  iv_tweak: size,
  encryption: z.string(),
  sector_size: z.literal([512, 1024, 2048, 4096]),
  integrity: z.unknown().optional(),
})
const PbkdfDigest = z.object({
  type: z.literal('pbkdf2'),
  keyslots: z.array(number),
  segments: z.array(number),
  hash: z.string(),
  iterations: count,
  salt: base64,
  digest: base64,
})
/** The JSON area; what is of a kind that is not known is left out. */
const Metadata = z.object({
  keyslots: z.record(number, z.unknown()),
  segments: z.record(number, z.unknown()),
  digests: z.record(number, z.unknown()),
  config: z.object({ requirements: z.object({ mandatory: z.array(z.string()).optional() }).optional() }),
})
const isIgnored = ({ priority }: z.infer<typeof Slot>) => priority === 0

/**
 * Reads a header of version 2 (LUKS2 On-Disk Format Specification 1.1.1, sections 2 and 3) at the start of a volume of an image, or
 * its second copy where the first is damaged. Offsets and lengths in bytes. Throws a LuksFault where neither can be used.
 */
export function readVersion2(reader: Reader, [at, length]: Extent): LuksHeader {
  const { keyslots, segments, digests, config } = metadataOf(reader, at)
  const mandatory = config.requirements?.mandatory ?? []
  if (mandatory.length > 0)
    throw new LuksFault(`is in a state that is not read here (${mandatory.map((one) => one.slice(0, 40)).join(', ')})`)
  const [only, ...more] = Object.entries(segments)
  const segment = Crypt.safeParse(only?.[1])
  if (!segment.success || more.length > 0) throw new LuksFault('has its data in a form that is not read here')
  if (segment.data.integrity !== undefined)
    throw new LuksFault('keeps checksums between its data, which is not read here')
  const { offset, size: bytes, iv_tweak, encryption, sector_size } = segment.data
  const here = Math.min(bytes === 'dynamic' ? length - offset : bytes, length - offset)
  if (offset < BINARY_BYTES || here <= 0) throw new LuksFault('has its data beyond the end of the image')
  const ofSegment = Object.values(digests)
    .slice(0, MAX_SLOTS)
    .flatMap((one) => {
      const read = PbkdfDigest.safeParse(one)
      return read.success && read.data.segments.includes(only![0]) ? [read.data] : []
    })
  const slots: KeySlot[] = Object.entries(keyslots)
    .slice(0, MAX_SLOTS)
    .flatMap(([name, one]) => {
      const read = Slot.safeParse(one)
      const digest = ofSegment.find(({ keyslots: own }) => own.includes(name))
      return read.success && !isIgnored(read.data) && digest ? [slotOf(read.data, digest)] : []
    })
  return {
    version: 2,
    slots,
    segment: {
      extent: [offset, here - (here % sector_size)],
      sectorBytes: sector_size,
      firstUnit: iv_tweak,
      cipher: encryption,
    },
  }
}

function slotOf({ key_size, af, area, kdf }: z.infer<typeof Slot>, digest: Digest): KeySlot {
  return {
    keyFunction: kdf satisfies KeyFunction,
    keyBytes: key_size,
    stripes: af.stripes,
    hash: af.hash,
    offset: area.offset,
    cipher: area.encryption,
    cipherKeyBytes: area.key_size,
    digest,
  }
}

/** The newest of both copies whose checksum fits. */
function metadataOf(reader: Reader, at: number): z.infer<typeof Metadata> {
  const first = copyAt(reader, at, 'LUKS\xba\xbe')
  const places = first
    ? [first.bytes]
    : [0x4000, 0x8000, 0x10000, 0x20000, 0x40000, 0x80000, 0x100000, 0x200000, 0x400000]
  const second = places.map((place) => copyAt(reader, at + place, 'SKUL\xba\xbe')).find((one) => one !== null)
  const newest = [first, second].flatMap((one) => one ?? []).sort((one, other) => other.sequence - one.sequence)[0]
  if (!newest) throw new LuksFault('has a damaged header: neither of its copies fits its checksum')
  return newest.metadata
}

function copyAt(reader: Reader, at: number, magic: string) {
  if (!reader.is(at, magic) || reader.u16be(at + 6) !== 2) return null
  const bytes = reader.u64be(at + 8)
  const sequence = reader.u64be(at + 16)
  const algorithm = textOf(reader, at + 72, 32)
  if (bytes <= BINARY_BYTES || bytes > MAX_HEADER_BYTES || !reader.has(at, bytes)) return null
  if (algorithm !== 'sha256' && algorithm !== 'sha512') return null
  const all = reader.source.read(at, bytes).slice()
  const told = all.slice(CHECKSUM_AT, CHECKSUM_AT + CHECKSUM_BYTES)
  all.fill(0, CHECKSUM_AT, CHECKSUM_AT + CHECKSUM_BYTES)
  const own = createHash(algorithm).update(all).digest()
  if (!own.equals(told.subarray(0, own.length))) return null
  const text = Buffer.from(all.subarray(BINARY_BYTES)).toString('utf8').split('\0')[0]!
  const metadata = Metadata.safeParse(jsonOf(text))
  return metadata.success ? { bytes, sequence, metadata: metadata.data } : null
}

function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return null
  }
}
