// Volumes that ordinary file-system tools write, and the truth about them. Only where the stand-in media are made.
import { execFileSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import {
  closeSync,
  mkdirSync,
  mkdtempSync,
  openSync,
  readFileSync,
  rmSync,
  statfsSync,
  truncateSync,
  utimesSync,
  writeFileSync,
  writeSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { gzipSync } from 'node:zlib'
import { DAY_MS, HOUR_MS } from '../../core/cases/shape/moment'
import { noise } from './content'
import { MEDIA_DAY } from './dates'
import { Truth } from './truth'

const OUT = join(import.meta.dirname, 'images')
export const work = mkdtempSync(join(tmpdir(), 'lantern-media-'))
const sha256 = (bytes: Bytes) => createHash('sha256').update(bytes).digest('hex')
export const run = (command: string, ...args: string[]) =>
  execFileSync(command, args, {
    stdio: ['ignore', 'pipe', 'pipe'],
    env: { ...process.env, MTOOLS_SKIP_CHECK: '1', TZ: 'UTC' },
  }).toString()

export type Bytes = Uint8Array

/** A volume on which ordinary tools write and delete files; each file is noted in the truth. */
export abstract class Volume {
  readonly ballast = new Set<string>()
  readonly written = new Map<string, { bytes: Bytes; state: 'present' | 'deleted'; isForgotten: boolean }[]>()
  constructor(
    readonly image: string,
    readonly offset: number,
  ) {}

  put(path: string, bytes: Bytes, made: Date | null = null) {
    this.write(path, bytes, made)
    this.written.set(path, [...(this.written.get(path) ?? []), { bytes, state: 'present', isForgotten: false }])
  }
  delete(path: string) {
    this.unlink(path)
    this.written.get(path)!.at(-1)!.state = 'deleted'
  }
  forget() {
    for (const files of this.written.values())
      for (const file of files) Object.assign(file, { state: 'deleted', isForgotten: true })
  }
  /** something that only takes room */
  fill(path: string, bytes: Bytes) {
    this.write(path, bytes)
    this.ballast.add(sha256(bytes))
  }
  putAll(files: Record<string, Bytes>, folder = '') {
    for (const [name, bytes] of Object.entries(files)) this.put(folder + name, bytes)
  }
  abstract write(path: string, bytes: Bytes, made?: Date | null): void
  abstract unlink(path: string): void
  done(): void {}
}

/** FAT by mtools, since not every machine can mount it. */
export class FatVolume extends Volume {
  private readonly folders = new Set<string>()
  private get drive() {
    return ['-i', this.offset > 0 ? `${this.image}@@${this.offset}` : this.image]
  }
  write(path: string, bytes: Bytes, made: Date | null = null) {
    const parts = path.split('/').slice(0, -1)
    for (let depth = 1; depth <= parts.length; depth++) {
      const folder = parts.slice(0, depth).join('/')
      if (!this.folders.has(folder)) run('mmd', ...this.drive, `::${folder}`)
      this.folders.add(folder)
    }
    const file = join(work, 'one')
    writeFileSync(file, bytes)
    const moment = made ?? onDay(-3, 14)
    utimesSync(file, moment, moment)
    run('mcopy', '-o', '-m', ...this.drive, file, `::${path}`)
  }
  unlink(path: string) {
    run('mdel', ...this.drive, `::${path}`)
  }
  /** Clears the next-free hint, so that the next file begins in the first free cluster. */
  rewind() {
    const { image, offset } = this
    const file = openSync(image, 'r+')
    writeSync(file, Buffer.from([255, 255, 255, 255]), 0, 4, offset + 512 + 492)
    closeSync(file)
  }
}

export class MountedVolume extends Volume {
  readonly folder = mkdtempSync(join(work, 'at-'))
  private loop = ''
  constructor(
    image: string,
    offset: number,
    bytes: number,
    private readonly how: 'ntfs' | 'exfat' | 'ext',
  ) {
    super(image, offset)
    this.loop = run('losetup', '-f', '--show', '-o', String(offset), '--sizelimit', String(bytes), image).trim()
    this.mount()
  }
  mount() {
    if (this.how === 'ntfs') run('ntfs-3g', '-o', 'streams_interface=none,compression', this.loop, this.folder)
    else if (this.how === 'exfat') run('mount.exfat-fuse', this.loop, this.folder)
    else run('mount', this.loop, this.folder)
  }
  unmount() {
    run('umount', this.folder)
  }
  /** what is deleted afterwards was on the medium before */
  settle() {
    this.unmount()
    this.mount()
  }
  write(path: string, bytes: Bytes) {
    mkdirSync(dirname(join(this.folder, path)), { recursive: true })
    writeFileSync(join(this.folder, path), bytes)
  }
  unlink(path: string) {
    rmSync(join(this.folder, path))
  }
  makeFolder(path: string) {
    mkdirSync(join(this.folder, path))
  }
  room(): number {
    const { folder } = this
    const { bavail, bsize } = statfsSync(folder)
    return bavail * bsize
  }
  /** Writes only some stretches of a file; the rest is a hole. */
  putSparse(path: string, stretches: readonly (readonly [at: number, bytes: Bytes])[]) {
    const { folder } = this
    const file = openSync(join(folder, path), 'w')
    for (const [at, bytes] of stretches) writeSync(file, bytes, 0, bytes.length, at)
    closeSync(file)
    this.written.set(path, [{ bytes: readFileSync(join(folder, path)), state: 'present', isForgotten: false }])
  }
  format(command: string, ...args: string[]) {
    this.unmount()
    run(command, ...args, this.loop)
    this.forget()
    this.mount()
  }
  override done() {
    this.unmount()
    run('losetup', '-d', this.loop)
  }
}

export function blank(name: string, bytes: number): string {
  const path = join(work, name)
  writeFileSync(path, '')
  truncateSync(path, bytes)
  return path
}

/** Looks for the bytes of each file in the image itself, and writes image and truth. */
export function keep(name: string, says: string, volumes: readonly Volume[]) {
  for (const volume of volumes) volume.done()
  const image = readFileSync(volumes[0]!.image)
  const sectors = new Set<string>()
  for (let at = 0; at < image.length; at += 512)
    sectors.add(
      createHash('md5')
        .update(image.subarray(at, at + 512))
        .digest('latin1'),
    )
  const held = (bytes: Bytes): 'whole' | 'pieces' | 'part' | 'gone' => {
    if (image.includes(bytes)) return 'whole'
    const all = Math.floor(bytes.length / 512)
    let found = 0
    for (let at = 0; at < all; at++)
      if (
        sectors.has(
          createHash('md5')
            .update(bytes.subarray(at * 512, at * 512 + 512))
            .digest('latin1'),
        )
      )
        found++
    return found === all && all > 0 ? 'pieces' : found > 0 ? 'part' : 'gone'
  }
  const files = volumes.flatMap((volume) =>
    [...volume.written].flatMap(([path, versions]) =>
      versions.map(({ bytes, state, isForgotten }, at) => ({
        path,
        state: at < versions.length - 1 ? ('deleted' as const) : state,
        bytes: bytes.length,
        sha256: sha256(bytes),
        held: held(bytes),
        isForgotten,
      })),
    ),
  )
  const truth = Truth.parse({ name, says, files, ballast: volumes.flatMap(({ ballast }) => [...ballast]) })
  mkdirSync(OUT, { recursive: true })
  const packed = gzipSync(image, { level: 9 })
  writeFileSync(join(OUT, `${name}.img.gz`), packed)
  writeFileSync(join(OUT, `${name}.json`), `${JSON.stringify(truth, null, 1)}\n`)
  console.log(`${name}: ${files.length} files, ${Math.round(packed.length / 1024)} kB`)
}

export const MB = 1024 * 1024
export const partition = (image: string, script: string) =>
  execFileSync('sfdisk', ['-q', image], { input: script, stdio: ['pipe', 'ignore', 'pipe'] })

/** An hour of the day so many days after the reference day of the media. */
export const onDay = (days: number, hour: number) => new Date(MEDIA_DAY + days * DAY_MS + (hour - 12) * HOUR_MS)

/** A card with an extended partition: FAT16 inside of it, FAT32 before it. */
export function twoVolumeCard(name: string, labels: readonly [first: string, second: string]): [FatVolume, FatVolume] {
  const image = blank(`${name}.img`, 56 * MB)
  partition(
    image,
    'label: dos\n start=2048, size=73728, type=c\n start=77824, size=34816, type=5\n start=79872, size=32768, type=6\n',
  )
  run('mkfs.fat', '-F', '32', '-s', '1', '-n', labels[0], '--offset', '2048', image, String(73728 / 2))
  run('mkfs.fat', '-F', '16', '-n', labels[1], '--offset', '79872', image, String(32768 / 2))
  return [new FatVolume(image, 2048 * 512), new FatVolume(image, 79872 * 512)]
}

/** A disk with NTFS in a GPT, on which an old system left many files. */
export function oldSystemDisk(name: string): MountedVolume {
  const image = blank(`${name}.img`, 48 * MB)
  partition(image, 'label: gpt\n start=2048, size=94208, type=EBD0A0A2-B9E5-4433-87C0-68B6B72699C7, name="Quay"\n')
  const [offset, size] = [2048 * 512, 94208 * 512]
  const loop = run('losetup', '-f', '--show', '-o', String(offset), '--sizelimit', String(size), image).trim()
  run('mkfs.ntfs', '-q', '-Q', '-F', '-L', 'Quay', loop)
  run('losetup', '-d', loop)
  const volume = new MountedVolume(image, offset, size, 'ntfs')
  // The old system had more files than the new one: its later records are not written over.
  for (let index = 0; index < 160; index++) volume.fill(`System/old/${index}.dat`, Buffer.alloc(40, 1 + (index % 7)))
  // The old documents are beyond what the new system overwrites.
  volume.fill('System/old.dat', new Uint8Array(14 * MB))
  return volume
}

/** Formats that disk and installs a system on it again. */
export function installAgain(volume: MountedVolume) {
  volume.settle()
  volume.format('mkfs.ntfs', '-q', '-Q', '-F', '-L', 'Quay')
  for (let at = 0; at < 12; at++) volume.put(`System/part-${at}.dat`, noise(800 + at, 40_000 + at * 1000))
}
