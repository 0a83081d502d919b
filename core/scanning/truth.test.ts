import { describe, expect, it } from 'vitest'
import { PatientSource, UnreadableError } from '../sources/patient-source'
import {
  ALL,
  contentBytes,
  imageBytes,
  IMAGES,
  scanned,
  sha256,
  truthOf,
  type ImageName,
} from '../testing/media-images'
import { contentOf, markUnreadable, scanImage } from './scan'

/** Files that a pass cannot give, and why. */
const LOST_TO_RECORDS: Partial<Record<ImageName, readonly string[]>> = {
  // Its record was given to a file that was written later.
  laptop: ['weir.jpg'],
  // Deleting clears the block numbers, and there is no journal.
  ext2: ['*'],
}
/** Files of a file system that was reformatted later. */
const NAMED_BY_TRACES: Partial<Record<ImageName, readonly string[]>> = {
  laptop: ['Documents/letter.docx', 'Documents/miller.vcf', 'Documents/bell.flac'],
  stick: ['weir.jpg', 'plan.png', 'diary.txt', 'tolls.xlsx'],
}
/** Fragmented files whose length or block lists lead around allocated space. */
const PIECES_JOINED: Partial<Record<ImageName, readonly string[]>> = {
  recorder: ['barge.mp4', 'tolls.pdf'],
  ext2: [
    'stone.bmp',
    'chart.tif',
    'barge.mp4',
    'barge.mov',
    'call.m4a',
    'phone.3gp',
    'winch.avi',
    'winch.mkv',
    'bell.wav',
  ],
}
/** Those of which the structure proves every byte as well. */
const PIECES_FOUND: Partial<Record<ImageName, readonly string[]>> = {
  recorder: ['weir.jpg', 'plan.png', 'letter.docx'],
  'camera-card': ['LONG2.JPG'],
  ext2: ['weir.jpg', 'plan.png', 'flag.gif', 'bell.flac'],
}

for (const name of IMAGES)
  describe(`on ${name}`, () => {
    const bytes = imageBytes(name)
    const truth = truthOf(name)
    const written = new Set([...truth.ballast, ...truth.files.map((file) => file.sha256)])
    const passes = {
      quick: scanned(bytes, { pass: 'quick' }),
      deep: scanned(bytes, { pass: 'deep' }),
      both: scanned(bytes),
    }
    const found = Object.fromEntries(
      Object.entries(passes).map(([pass, { items }]) => [
        pass,
        items
          .filter(({ content }) => content !== 'overwritten')
          .map((item) => ({ item, sha256: sha256(contentBytes(bytes, item)) })),
      ]),
    ) as Record<keyof typeof passes, { item: (typeof passes.quick.items)[number]; sha256: string }[]>
    const gives = (pass: keyof typeof passes, checksum: string) => found[pass].some((one) => one.sha256 === checksum)

    it.each(['quick', 'deep', 'both'] as const)('the %s pass calls nothing intact that was never written', (pass) => {
      const wrong = found[pass].filter(
        ({ item, sha256 }) => item.content === 'intact' && item.bytes > 0 && !written.has(sha256),
      )
      expect(wrong.map(({ item }) => [item.path, item.extents])).toEqual([])
    })

    const present = truth.files.filter(({ state }) => state === 'present')
    const deleted = truth.files.filter(({ state, held }) => state === 'deleted' && held === 'whole')
    const recorded = deleted.filter(({ isForgotten }) => !isForgotten)
    const overwritten = truth.files
      .filter(({ held, isForgotten }) => (held === 'part' || held === 'gone') && !isForgotten)
      .flatMap((file) =>
        passes.both.items.filter(
          ({ path, record, source, bytes: size }) =>
            path === file.path && record === 'deleted' && size === file.bytes && source === null,
        ),
      )

    it.runIf(present.length)('live files are recovered by their records, byte for byte', () => {
      for (const file of present) {
        const own = found.quick.find(({ item }) => item.path === file.path && item.record === 'present')
        expect(own, file.path).toMatchObject({ sha256: file.sha256, item: { bytes: file.bytes, content: 'intact' } })
      }
    })

    it.runIf(recorded.length)('deleted files that were not overwritten are recovered by their records', () => {
      const lost = LOST_TO_RECORDS[name] ?? []
      for (const file of recorded) {
        const isLost = lost.includes('*') || lost.some((one) => file.path.endsWith(one))
        expect(gives('quick', file.sha256), `${file.path}, by records`).toBe(!isLost)
      }
    })

    it.runIf(deleted.length)('deleted files that were not overwritten are recovered, and only once', () => {
      for (const file of deleted) {
        expect(gives('both', file.sha256) || name === 'ext2', `${file.path}, by both`).toBe(true)
        expect(found.both.filter((one) => one.sha256 === file.sha256).length, file.path).toBeLessThanOrEqual(1)
      }
    })

    it.runIf(NAMED_BY_TRACES[name])('files of an earlier file system get their names from its traces', () => {
      for (const end of NAMED_BY_TRACES[name]!) {
        const file = truth.files.find(({ path, isForgotten }) => isForgotten && path.endsWith(end))!
        const own = found.both.filter((one) => one.sha256 === file.sha256)
        expect(
          own.map(({ item }) => item.path),
          end,
        ).toEqual([expect.stringContaining(end)])
        expect(own[0]!.item.record).toBe('deleted')
      }
    })

    it.runIf(PIECES_FOUND[name])('fragmented files are joined where their structure proves it', () => {
      for (const end of PIECES_FOUND[name]!) {
        const file = truth.files.find(({ path, state }) => path.endsWith(end) && state === 'deleted')!
        expect(file.held, end).toBe('pieces')
        expect(found.deep.find((one) => one.sha256 === file.sha256)?.item.content, end).toBe('intact')
      }
    })

    it.runIf(PIECES_JOINED[name])('fragments joined without proof are reported as plausible only', () => {
      for (const end of PIECES_JOINED[name]!) {
        const file = truth.files.find(({ path, state }) => path.endsWith(end) && state === 'deleted')!
        expect(found.deep.find((one) => one.sha256 === file.sha256)?.item, end).toMatchObject({ content: 'unverified' })
      }
    })

    it.runIf(overwritten.length)('overwritten files are not reported as whole', () => {
      for (const { path, content } of overwritten) expect(content, path!).toMatch(/partial|overwritten/)
    })
  })

describe('a medium with a bad sector', () => {
  it('gives what it can, as partial and not whole', () => {
    const bytes = imageBytes('floppy')
    const ledger = scanned(bytes, { pass: 'quick' }).items.find(({ path }) => path === 'ledger.txt')!
    const bad = ledger.extents[0]![0] + 512
    const image = new PatientSource({
      size: bytes.length,
      read: (offset, length) => {
        if (offset < bad + 512 && offset + length > bad) throw new UnreadableError(offset, length)
        return bytes.subarray(offset, offset + length)
      },
    })
    const steps = scanImage(image, ALL)
    let step = steps.next()
    while (!step.done) step = steps.next()
    const { items, warnings } = step.value
    for (const item of items) {
      const content = contentOf(image, item)
      content.read(0, content.size)
      markUnreadable(image, item)
    }
    expect(items.find(({ path }) => path === 'ledger.txt')).toMatchObject({ content: 'partial' })
    expect(items.filter(({ content }) => content === 'intact').length).toBeGreaterThan(1)
    expect(warnings).toContainEqual({ where: `byte ${bad}`, what: '512 bytes cannot be read' })
  })
})

describe('a file that its file system had compressed', () => {
  it('is unpacked out of its clusters, also when it was deleted', () => {
    const bytes = imageBytes('odd-ntfs')
    const { items } = scanned(bytes, { pass: 'quick' })
    const packed = truthOf('odd-ntfs').files.filter(({ path }) => path.startsWith('packed/text'))
    expect(packed.map(({ state }) => state).sort()).toEqual(['deleted', 'present', 'present'])
    for (const file of packed) {
      const item = items.find(({ path }) => path === file.path)!
      expect(sha256(contentBytes(bytes, item)), file.path).toBe(file.sha256)
      expect(
        item.extents.reduce((sum, [, length]) => sum + length, 0),
        file.path,
      ).toBeLessThan(file.bytes)
    }
  })
})
