import type { Reader } from '../sources/reader'
import type { Verdict } from './filesystems/volume-shape'

/** A kind of volume or image that is recognised by its mark and not read. */
export interface Mark {
  readonly verdict: Extract<Verdict, 'known' | 'encrypted' | 'container'>
  /** what it is, as a sentence begins */
  readonly name: string
  /** whether a passphrase opens it here */
  readonly hasLock?: true
  /** Whether it begins at a place of a source. `end`: where the volume ends; both in bytes. */
  isAt(reader: Reader, at: number, end: number): boolean
}

const bytes = (offset: number, text: string) => (reader: Reader, at: number) => reader.is(at + offset, text)
const either =
  (...tests: readonly Mark['isAt'][]): Mark['isAt'] =>
  (reader, at, end) =>
    tests.some((test) => test(reader, at, end))
/** At any of the page sizes of a machine, at the end of the first page. */
const atPageEnd = (...texts: readonly string[]) =>
  either(...[4096, 8192, 16_384, 65_536].flatMap((page) => texts.map((text) => bytes(page - 10, text))))
const atEnd = (before: number, text: string) => (reader: Reader, _: number, end: number) =>
  reader.is(end - before, text)
/** The superblock of an array of disks stands before or behind its data (version 0.90 and 1.0 to 1.2). */
const isArrayMember: Mark['isAt'] = (reader, at, end) => {
  const magic = 0xa92b4efc
  const old = Math.floor((end - at) / 65_536) * 65_536 - 65_536
  const behind = Math.floor((end - at - 8192) / 4096) * 4096
  return [0, 4096, old, behind].some((place) => place >= 0 && reader.u32le(at + place) === magic)
}

const known = (name: string, isAt: Mark['isAt']): Mark => ({ verdict: 'known', name, isAt })
const encrypted = (name: string, isAt: Mark['isAt']): Mark => ({ verdict: 'encrypted', name, isAt })
const container = (name: string, isAt: Mark['isAt']): Mark => ({ verdict: 'container', name, isAt })
const virtualDisk = (kind: string, isAt: Mark['isAt']) => container(`A virtual disk (${kind})`, isAt)
const packed = (kind: string, isAt: Mark['isAt']) => container(`A packed image or archive (${kind})`, isAt)

const locked = (name: string, isAt: Mark['isAt']): Mark => ({ ...encrypted(name, isAt), hasLock: true })

/** Volumes that a passphrase opens. */
export const LUKS: readonly Mark[] = [
  locked('An encrypted volume (LUKS 1)', bytes(0, 'LUKS\xba\xbe\0\x01')),
  locked('An encrypted volume (LUKS 2)', either(bytes(0, 'LUKS\xba\xbe\0\x02'), secondHeader)),
]

export const LVM = known(
  'A member of a volume group (LVM)',
  either(...[0, 512, 1024, 1536].map((at) => bytes(at, 'LABELONE'))),
)

/** Every kind that is known by its mark; a new one is a line here. The surest marks come first. */
export const MARKS: readonly Mark[] = [
  ...LUKS,
  encrypted('A volume under full-volume encryption (its boot sector bears the mark -FVE-FS-)', bytes(3, '-FVE-FS-')),
  known('A btrfs volume', bytes(0x10040, '_BHRfS_M')),
  known('An XFS volume', bytes(0, 'XFSB')),
  known('Swap space', atPageEnd('SWAPSPACE2', 'SWAP-SPACE')),
  LVM,
  known('A member of an array of disks (RAID)', isArrayMember),
  known('A ReFS volume', bytes(3, 'ReFS\0\0\0\0')),
  known('An HFS+ volume', either(bytes(1024, 'H+\0\x04'), bytes(1024, 'HX\0\x05'))),
  known('An APFS container', bytes(32, 'NXSB')),
  known('An F2FS volume', bytes(1024, '\x10\x20\xf5\xf2')),
  known('A disc image (UDF)', either(...[1, 2, 3].map((sector) => bytes(32_769 + sector * 2048, 'NSR0')))),
  known('A disc image (ISO 9660)', bytes(32_769, 'CD001')),
  known('A SquashFS volume', either(bytes(0, 'hsqs'), bytes(0, 'sqsh'))),
  known('A ZFS member', either(...[0, 1, 2, 3].map((at) => bytes(131_072 + at * 1024, '\x0c\xb1\xba\0\0\0\0\0')))),
  known('A JFS volume', bytes(32_768, 'JFS1')),
  known('A ReiserFS volume', either(bytes(65_588, 'ReIsEr'), bytes(8244, 'ReIsEr'))),
  known('An EROFS volume', bytes(1024, '\xe2\xe1\xf5\xe0')),
  known('A NILFS2 volume', (reader, at) => reader.u16le(at + 1030) === 0x3434 && reader.u32le(at + 1024) === 2),
  virtualDisk('QCOW', bytes(0, 'QFI\xfb')),
  virtualDisk('VHD', either(bytes(0, 'conectix'), atEnd(512, 'conectix'))),
  virtualDisk('VHDX', bytes(0, 'vhdxfile')),
  virtualDisk('VMDK', either(bytes(0, 'KDMV'), bytes(0, 'COWD'), bytes(0, '# Disk DescriptorFile'))),
  virtualDisk('VDI', bytes(64, '\x7f\x10\xda\xbe')),
  container('An image in an evidence container (EWF)', bytes(0, 'EVF\x09\x0d\x0a\xff\0')),
  container('A disk image file with a trailer (UDIF)', atEnd(512, 'koly')),
  packed('gzip', bytes(0, '\x1f\x8b\x08')),
  packed('xz', bytes(0, '\xfd7zXZ\0')),
  packed('bzip2', either(...[1, 9].map((level) => bytes(0, `BZh${level}1AY&SY`)))),
  packed('Zstandard', bytes(0, '\x28\xb5\x2f\xfd')),
  packed('LZ4', bytes(0, '\x04\x22\x4d\x18')),
  packed('7z', bytes(0, '7z\xbc\xaf\x27\x1c')),
  packed('RAR', bytes(0, 'Rar!\x1a\x07')),
  packed('tar', bytes(257, 'ustar')),
]

/** The second header of LUKS 2 stands where the first ends, at a power of two. */
function secondHeader(reader: Reader, at: number): boolean {
  for (let place = 0x4000; place <= 0x400000; place *= 2) if (reader.is(at + place, 'SKUL\xba\xbe')) return true
  return false
}
