import { createCipheriv, createHash } from 'node:crypto'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { scanImage } from '../../scanning/scan'
import { PatientSource, UnreadableError } from '../../sources/patient-source'
import { bytesSource } from '../../sources/source'
import { LOCKED, lockedImage, PASSPHRASE, PICTURE_SHA256 } from '../../testing/locked-images'
import { ALL, contentBytes } from '../../testing/media-images'
import { unlockVolumes } from '../unlock-volumes'
import { findVolumes } from '../volumes'
import { LuksFault } from './header'
import { openedSource, type OpenedVolume } from './opened'
import { sectorCipher } from './sector-cipher'
import { readHeader, unlock } from './unlock'

const MB = 1024 * 1024
const secret = (text: string) => Buffer.from(text)
const allOf = (bytes: Uint8Array) => [0, bytes.length] as const
const open = (bytes: Uint8Array, text = PASSPHRASE) => unlock(bytesSource(bytes), allOf(bytes), secret(text))

describe.each(LOCKED)('an encrypted volume, %s', (name) => {
  const bytes = lockedImage(name)

  it('says that its passphrase opens it, and stays closed for another', async () => {
    const [{ shape }] = findVolumes(bytesSource(bytes)).volumes as [ReturnType<typeof findVolumes>['volumes'][0]]
    expect(shape).toMatchObject({ verdict: 'encrypted', lock: 'closed', fileSystem: null })
    expect(await open(bytes, 'lock keeper 8')).toBeNull()
    expect(await unlockVolumes(bytesSource(bytes), [secret('x'), secret('y')])).toMatchObject({
      locked: 1,
      opened: [],
      faults: [{ where: 'volume 0', what: 'the passphrase opens none of its key slots' }],
    })
  })

  it('gives its files once opened, the deleted one too, at offsets of the image', async () => {
    const { opened } = await unlockVolumes(bytesSource(bytes), [secret('not this'), secret(PASSPHRASE)])
    const image = new PatientSource(openedSource(bytesSource(bytes), opened))
    const found = findVolumes(image, opened)
    expect(found.volumes).toMatchObject([
      {
        shape: { label: 'LOCKED', verdict: 'read', lock: 'opened', says: expect.stringMatching(/^Opened with its p/) },
      },
    ])
    const steps = scanImage(image, { ...ALL, volumes: found })
    let step = steps.next()
    while (!step.done) step = steps.next()
    const plain = new Uint8Array(image.read(0, image.size))
    const told = step.value.items.map((item) => {
      const sha256 = createHash('sha256').update(contentBytes(plain, item)).digest('hex')
      return [item.path, item.record, item.content, sha256 === PICTURE_SHA256]
    })
    expect(told).toEqual(
      expect.arrayContaining([
        ['note.txt', 'present', 'intact', false],
        ['HERON.JPG', 'present', 'intact', true],
        ['_OST.JPG', 'deleted', 'intact', true],
      ]),
    )
    for (const { extents } of step.value.items)
      for (const [at] of extents) expect(at === -1 || at >= opened[0]!.offset || name === 'version-2').toBe(true)
  })

  it('reads any range as a part of the whole, and everything else as it is', async () => {
    const own = (await open(bytes))!
    const source = openedSource(bytesSource(bytes), [own])
    const plain = new Uint8Array(source.read(0, bytes.length))
    expect(Buffer.compare(plain.subarray(0, own.offset), bytes.subarray(0, own.offset))).toBe(0)
    expect(Buffer.from(plain.subarray(own.offset + 54, own.offset + 62)).toString()).toBe('FAT12   ')
    const at = fc.integer({ min: own.offset - 2000, max: own.offset + own.bytes + 10 })
    fc.assert(
      fc.property(at, fc.integer({ min: 0, max: 9000 }), (offset, length) => {
        const wanted = plain.subarray(offset, offset + length)
        expect(Buffer.compare(source.read(offset, length), wanted)).toBe(0)
        const into = new Uint8Array(length)
        expect(source.readInto!(into, offset)).toBe(wanted.length)
        expect(Buffer.compare(into.subarray(0, wanted.length), wanted)).toBe(0)
      }),
    )
  })

  it('loses no more to a bad sector than the sector', async () => {
    const own = (await open(bytes))!
    const bad = own.offset + 20 * 512
    const worn = {
      size: bytes.length,
      read: (offset: number, length: number) => {
        if (offset < bad + 512 && offset + length > bad) throw new UnreadableError(offset, length)
        return bytes.subarray(offset, offset + length)
      },
    }
    const image = new PatientSource(openedSource(worn, [own]))
    const plain = openedSource(bytesSource(bytes), [own]).read(0, bytes.length).slice()
    plain.fill(0, bad, bad + 512)
    expect(Buffer.compare(image.read(0, bytes.length), plain)).toBe(0)
    expect(image.unreadable()).toEqual([[bad, 512]])
  })

  it('is never read wrongly, whatever its header says', () => {
    const change = fc.tuple(fc.nat(20_000), fc.nat(255))
    fc.assert(
      fc.property(fc.array(change, { minLength: 1, maxLength: 8 }), fc.nat(bytes.length), (changes, length) => {
        const hurt = bytes.slice(0, Math.max(16, length))
        for (const [at, byte] of changes) if (at < hurt.length) hurt[at] = byte
        try {
          const { segment } = readHeader(bytesSource(hurt), allOf(hurt))
          expect(segment.extent[0] + segment.extent[1]).toBeLessThanOrEqual(hurt.length)
        } catch (error) {
          expect(error).toBeInstanceOf(LuksFault)
        }
      }),
      { numRuns: 300 },
    )
  })
})

describe('an encrypted volume that no table names', () => {
  it('is found by its header, and what is in it once it is opened', async () => {
    const bytes = new Uint8Array(8 * MB)
    bytes.set(lockedImage('version-1'), 3 * MB)
    const shapes = (image = bytesSource(bytes), opened: readonly OpenedVolume[] = []) =>
      findVolumes(image, opened).volumes.map(({ shape }) => shape)
    expect(shapes().at(-1)).toMatchObject({ scheme: 'found', offset: 3 * MB, bytes: 5 * MB, lock: 'closed' })
    const { opened } = await unlockVolumes(bytesSource(bytes), [secret(PASSPHRASE)])
    const open = shapes(openedSource(bytesSource(bytes), opened), opened)
    expect(open.at(-1)).toMatchObject({ scheme: 'found', label: 'LOCKED', says: expect.stringContaining('Opened') })
    expect(open.some(({ lock }) => lock === 'closed')).toBe(false)
  })
})

/** The image of version 2 with another value in the JSON area of its first copy, and without its second. */
function withMetadata(path: string, value: unknown): Uint8Array {
  const bytes = lockedImage('version-2')
  bytes.fill(0, 0x4000, 0x4000 + 4096)
  const length = Number(new DataView(bytes.buffer).getBigUint64(8))
  const metadata = JSON.parse(Buffer.from(bytes.subarray(4096, length)).toString().split('\0')[0]!) as object
  const names = path.split('.')
  const last = names.pop()!
  const place = names.reduce((one, name) => (one as Record<string, object>)[name]!, metadata)
  Object.assign(place, { [last]: value })
  bytes.fill(0, 4096, length)
  bytes.set(Buffer.from(JSON.stringify(metadata)), 4096)
  bytes.fill(0, 448, 512)
  bytes.set(createHash('sha256').update(bytes.subarray(0, length)).digest(), 448)
  return bytes
}

describe('a header of version 2', () => {
  it('is taken from its second copy where the first is damaged', async () => {
    const bytes = lockedImage('version-2')
    bytes[4100]! ^= 1
    expect(await open(bytes)).toMatchObject({ kind: 'LUKS 2' })
    bytes[0x4000 + 4100]! ^= 1
    await expect(open(bytes)).rejects.toThrow('neither of its copies fits its checksum')
  })

  it.each<[says: string, path: string, value: unknown]>([
    ['is in a state', 'config.requirements', { mandatory: ['online-reencrypt'] }],
    ['keeps checksums', 'segments.0.integrity', { type: 'hmac(sha256)' }],
    ['in a form', 'segments.0.type', 'linear'],
    ['in a form', 'segments.1', {}],
    ['beyond the end', 'segments.0.offset', '900000000'],
    ['serpent-xts-plain64', 'segments.0.encryption', 'serpent-xts-plain64'],
    ['more work', 'keyslots.0.kdf.memory', 4_294_967_295],
    ['more work', 'keyslots.0.kdf.time', 4_294_967_295],
    ['cannot be computed', 'keyslots.0.kdf.cpus', 0],
    ['damaged key slot', 'keyslots.0.af.stripes', 4_000_000],
    ['uses the hash', 'keyslots.0.af.hash', 'md5'],
    ['no key slot', 'keyslots.0.priority', 0],
    ['no key slot', 'digests.0.type', 'other'],
  ])('%s (%s): is refused in words', async (says, path, value) => {
    const opened = open(withMetadata(path, value))
    await expect(opened).rejects.toThrow(LuksFault)
    await expect(opened).rejects.toThrow(says)
  })

  it('still opens where only what is not needed was changed', async () => {
    expect(await open(withMetadata('config.flags', ['allow-discards']))).not.toBeNull()
  })
})

describe('the ciphers of sectors', () => {
  it('decrypt test vector 4 of IEEE 1619 (XTS, data unit 0)', () => {
    const key = Buffer.from('27182818284590452353602874713526' + '31415926535897932384626433832795', 'hex')
    const bytes = new Uint8Array(512)
    bytes.set(Buffer.from('27a7479befa1d476489f308cd4cfa6e2', 'hex'))
    sectorCipher('aes-xts-plain64', key, 512)(bytes, 0)
    expect(Array.from(bytes.subarray(0, 16))).toEqual(Array.from({ length: 16 }, (_, at) => at))
  })

  const modes = [
    ['aes-xts-plain64', 'aes-128-xts', 32],
    ['aes-xts-plain64', 'aes-256-xts', 64],
    ['aes-xts-plain', 'aes-256-xts', 64],
    ['aes-cbc-plain64', 'aes-256-cbc', 32],
    ['aes-cbc-plain', 'aes-192-cbc', 24],
    ['aes-cbc-essiv:sha256', 'aes-128-cbc', 16],
  ] as const
  it.each(modes)('undo what the library encrypts sector by sector: %s, %s', (name, of, keyBytes) => {
    const key = Uint8Array.from({ length: keyBytes }, (_, at) => at * 37 + 5)
    const unit = fc.oneof(fc.nat(1000), fc.integer({ min: 2 ** 32 - 3, max: 2 ** 32 + 3 }), fc.nat(2 ** 40))
    fc.assert(
      fc.property(unit, fc.constantFrom(512, 4096), fc.integer({ min: 1, max: 5 }), (first, size, count) => {
        const plain = Uint8Array.from({ length: size * count }, (_, at) => (at * 31 + (at >> 9)) & 255)
        const sectors = Array.from({ length: count }, (_, sector) => {
          const number = Buffer.alloc(16)
          const own = first + sector * (size / 512)
          number.writeBigUInt64LE(BigInt(name.endsWith('plain') ? own % 2 ** 32 : own))
          const salt = createHash('sha256').update(key).digest()
          const hidden = createCipheriv('aes-256-ecb', salt, null).setAutoPadding(false).update(number)
          const vector = name.includes('essiv') ? hidden : number
          const sealing = createCipheriv(of, key, vector).setAutoPadding(false)
          return sealing.update(plain.subarray(sector * size, (sector + 1) * size))
        })
        const bytes = new Uint8Array(Buffer.concat(sectors))
        sectorCipher(name, key, size)(bytes, first)
        expect(Buffer.compare(bytes, plain)).toBe(0)
      }),
      { numRuns: 30 },
    )
  })

  it.each(['aes-cbc-essiv:md5', 'aes-xts-essiv', 'aes-ctr-plain', 'twofish-xts-plain64', 'aes'])(
    '%s: is refused',
    (name) => expect(() => sectorCipher(name, new Uint8Array(32), 512)).toThrow(LuksFault),
  )
})
