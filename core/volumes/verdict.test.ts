import { randomFillSync } from 'node:crypto'
import { describe, expect, it } from 'vitest'
import { bytesSource } from '../sources/source'
import { sampleBytes } from '../testing/format-samples'
import { imageBytes } from '../testing/media-images'
import { MARKS } from './marks'
import { findVolumes } from './volumes'

const MB = 1024 * 1024
const shapes = (bytes: Uint8Array) => findVolumes(bytesSource(bytes)).volumes.map(({ shape }) => shape)

/** Where each mark stands on what bears it; from the end where the offset is negative. */
const SAMPLES: Readonly<Record<string, readonly [at: number, bytes: string]>> = {
  'LUKS 1': [0, 'LUKS\xba\xbe\0\x01'],
  'LUKS 2': [0x4000, 'SKUL\xba\xbe\0\x02'],
  'FVE-FS': [3, '-FVE-FS-'],
  btrfs: [65_600, '_BHRfS_M'],
  XFS: [0, 'XFSB'],
  Swap: [4086, 'SWAPSPACE2'],
  LVM: [512, 'LABELONE'],
  RAID: [4096, '\xfc\x4e\x2b\xa9'],
  ReFS: [3, 'ReFS\0\0\0\0'],
  'HFS+': [1024, 'H+\0\x04'],
  APFS: [32, 'NXSB'],
  F2FS: [1024, '\x10\x20\xf5\xf2'],
  UDF: [32_769 + 2048, 'NSR03'],
  'ISO 9660': [32_769, 'CD001'],
  SquashFS: [0, 'hsqs'],
  ZFS: [131_072, '\x0c\xb1\xba\0\0\0\0\0'],
  JFS: [32_768, 'JFS1'],
  ReiserFS: [65_588, 'ReIsEr2Fs'],
  EROFS: [1024, '\xe2\xe1\xf5\xe0'],
  NILFS2: [1024, '\x02\0\0\0\0\0\x34\x34'],
  QCOW: [0, 'QFI\xfb'],
  'VHD)': [-512, 'conectix'],
  VHDX: [0, 'vhdxfile'],
  VMDK: [0, 'KDMV'],
  VDI: [64, '\x7f\x10\xda\xbe'],
  EWF: [0, 'EVF\x09\x0d\x0a\xff\0'],
  UDIF: [-512, 'koly'],
  gzip: [0, '\x1f\x8b\x08'],
  'xz)': [0, '\xfd7zXZ\0'],
  bzip2: [0, 'BZh91AY&SY'],
  Zstandard: [0, '\x28\xb5\x2f\xfd'],
  LZ4: [0, '\x04\x22\x4d\x18'],
  '7z': [0, '7z\xbc\xaf\x27\x1c'],
  RAR: [0, 'Rar!\x1a\x07'],
  tar: [257, 'ustar'],
}

describe('a volume that is not read', () => {
  it.each(MARKS.map((mark) => [mark.name, mark] as const))('is known by its mark: %s', (name, mark) => {
    const sample = Object.entries(SAMPLES).find(([word]) => name.includes(word))
    expect(sample, `a sample of ${name}`).toBeDefined()
    const [at, text] = sample![1]
    const bytes = randomFillSync(new Uint8Array(MB))
    bytes.fill(0, 0, 512)
    bytes.set(
      Uint8Array.from(text, (letter) => letter.charCodeAt(0)),
      at < 0 ? bytes.length + at : at,
    )
    const [shape] = shapes(bytes)
    expect(shape).toMatchObject({ fileSystem: null, verdict: mark.verdict })
    expect(shape!.says).toContain(name)
  })

  it('is encrypted where it is noise from end to end, which films, packed data and pictures are not', () => {
    expect(shapes(randomFillSync(new Uint8Array(4 * MB)))[0]!.verdict).toBe('encrypted')
    for (const name of ['barge.mp4', 'letter.docx', 'plan.png', 'weir.jpg', 'bell.flac'] as const) {
      const bytes = new Uint8Array(4 * MB)
      const sample = sampleBytes(name)
      for (let at = 0; at + sample.length < bytes.length; at += sample.length) bytes.set(sample, at)
      expect(shapes(bytes)[0]!.verdict, name).toBe('unknown')
    }
  })

  it('is empty where nothing but zeros or ones is read', () => {
    expect(shapes(new Uint8Array(2 * MB))[0]!.verdict).toBe('empty')
    expect(shapes(new Uint8Array(2 * MB).fill(0xff))[0]!.verdict).toBe('empty')
  })
})

describe('a volume that is read', () => {
  it('is cut where the image ends before it does, and says how much is missing', () => {
    const bytes = imageBytes('laptop')
    expect(shapes(bytes)[0]).toMatchObject({ fileSystem: 'NTFS', verdict: 'read' })
    const { offset, bytes: length } = shapes(bytes)[0]!
    expect(shapes(bytes.subarray(0, offset + length / 3))[0]).toMatchObject({
      verdict: 'cut',
      says: expect.stringContaining('three times'),
    })
  })

  it('is damaged where only the copy of its first sector is left', () => {
    const bytes = imageBytes('stick').slice()
    bytes.fill(0, 0, 512)
    expect(shapes(bytes)[0]).toMatchObject({ fileSystem: 'exFAT', verdict: 'damaged' })
  })
})
