// Makes the stand-in media and their truth with the ordinary file-system tools: `npm run media`, as root, on a machine
// with dosfstools, mtools, exfatprogs, exfat-fuse, ntfs-3g, e2fsprogs, fdisk and ffmpeg. What it makes is committed.
import { rmSync } from 'node:fs'
import { join } from 'node:path'
import { bitmap, clip, noise, oneOfEach, photo, prose, tune } from './content'
import { guildDisk, heronCard, phoneClips, quayDisk, weaversStick, wharfCard } from './owners'
import {
  blank,
  FatVolume,
  installAgain,
  keep,
  MB,
  MountedVolume,
  oldSystemDisk,
  onDay,
  partition,
  run,
  twoVolumeCard,
  work,
} from './volumes'

async function floppy() {
  const image = blank('floppy.img', 1_474_560)
  run('mkfs.fat', '-F', '12', '-n', 'OLD NOTES', image)
  const volume = new FatVolume(image, 0)
  volume.put('ledger.txt', prose(1, 3000))
  volume.put('Harvest accounts of the mill.txt', prose(2, 9000))
  volume.put('LETTERS/to the keeper.txt', prose(3, 1200))
  volume.put('weir.jpg', await photo(4, 240))
  volume.put('gate.png', await photo(5, 90, 'png'))
  for (const path of ['Harvest accounts of the mill.txt', 'LETTERS/to the keeper.txt', 'weir.jpg']) volume.delete(path)
  keep('floppy', 'FAT12, a few files deleted', [volume])
}

async function cards() {
  const [first, second] = twoVolumeCard('two-volumes', ['FIELD CARD', 'SPARE'])
  const all = await oneOfEach(40)
  first.putAll(all, 'DCIM/100/')
  for (const name of Object.keys(all)) first.delete(`DCIM/100/${name}`)
  second.putAll({ 'bell.wav': tune(8), 'mill.jpg': await photo(9, 420), 'stone.bmp': bitmap(10, 80) })
  second.delete('mill.jpg')
  second.delete('stone.bmp')
  keep('two-volumes', 'a partition table with an extended partition; one of each format deleted from FAT32', [
    first,
    second,
  ])
}

async function cameraCard() {
  const image = blank('camera-card.img', 40 * MB)
  partition(image, 'label: dos\n start=2048, type=c\n')
  const sectors = 40 * 2048 - 2048
  run('mkfs.fat', '-F', '32', '-s', '1', '-n', 'SURVEY', '--offset', '2048', image, String(sectors / 2))
  const volume = new FatVolume(image, 2048 * 512)
  // Ten days of survey, three pictures a day and a clip now and then.
  const taken = (picture: number) => onDay(-18 + Math.floor((picture - 1) / 3), 9 + (picture % 3) * 3)
  for (let at = 1; at <= 30; at++)
    volume.put(
      `DCIM/101SURV/SURV${String(at).padStart(4, '0')}.JPG`,
      await photo(100 + at, 360 + (at % 4) * 60, 'jpeg', taken(at)),
      taken(at),
    )
  for (let at = 1; at <= 3; at++)
    volume.put(
      `DCIM/101SURV/SURV9${String(at).padStart(3, '0')}.MP4`,
      clip(20 + at, 'mp4', 3, taken(at * 9)),
      taken(at * 9),
    )
  // Every other file is deleted; the next one fills the gaps, fragmented.
  for (let at = 2; at <= 12; at += 2) volume.delete(`DCIM/101SURV/SURV${String(at).padStart(4, '0')}.JPG`)
  volume.rewind()
  for (let at = 1; at <= 2; at++)
    volume.put(`DCIM/102SURV/LONG${at}.JPG`, await photo(200 + at, at === 1 ? 900 : 600, 'jpeg', taken(30)), taken(30))
  volume.put('DCIM/102SURV/LONG3.PNG', await photo(203, 260, 'png'), taken(30))
  for (let at = 14; at <= 24; at++) volume.delete(`DCIM/101SURV/SURV${String(at).padStart(4, '0')}.JPG`)
  volume.delete('DCIM/101SURV/SURV9002.MP4')
  volume.rewind()
  volume.put('DCIM/103SURV/SURV0031.JPG', await photo(301, 420, 'jpeg', onDay(-2, 15)), onDay(-2, 15))
  volume.delete('DCIM/102SURV/LONG2.JPG')
  volume.delete('DCIM/102SURV/LONG3.PNG')
  keep('camera-card', 'FAT32, half of its pictures deleted, some written over, some in pieces', [volume])
}

async function stick() {
  const bytes = 24 * MB
  const image = blank('stick.img', bytes)
  run('mkfs.exfat', '-L', 'PATTERNS', image)
  const volume = new MountedVolume(image, 0, bytes, 'exfat')
  volume.putAll({
    'patterns/nine patch.pdf': (await oneOfEach(60))['tolls.pdf']!,
    'patterns/log cabin.jpg': await photo(61, 480),
  })
  for (let index = 0; index < 40; index++)
    volume.fill(`patterns/sheet ${index}.dat`, Buffer.alloc(4000, 1 + (index % 7)))
  const all = await oneOfEach(70)
  volume.putAll(all, 'guild/')
  volume.settle()
  volume.format('mkfs.exfat', '-L', 'NEW STICK')
  volume.putAll({
    'raffle.txt': prose(71, 900),
    'stall.jpg': await photo(72, 300),
    'hall/plan of the hall in June.png': await photo(73, 120, 'png'),
  })
  volume.settle()
  volume.delete('stall.jpg')
  volume.delete('hall/plan of the hall in June.png')
  keep('stick', 'exFAT, made anew once; two of the new files deleted', [volume])
}

async function laptop() {
  const volume = oldSystemDisk('laptop')
  const old = await oneOfEach(80)
  volume.putAll(old, 'People/Hanna/Documents/')
  volume.put('People/Hanna/small note.txt', prose(81, 400))
  installAgain(volume)
  const fresh = await oneOfEach(90)
  volume.putAll(fresh, 'People/Hanna/Desk/')
  volume.put('People/Hanna/Desk/short.txt', prose(91, 300))
  volume.settle()
  for (const name of [...Object.keys(fresh), 'short.txt']) volume.delete(`People/Hanna/Desk/${name}`)
  volume.settle()
  volume.put('System/late.dat', noise(899, 90_000))
  keep('laptop', 'GPT with NTFS, the system installed again; then one of each format deleted', [volume])
}

async function server() {
  for (const kind of ['ext2', 'ext3', 'ext4'] as const) {
    const bytes = 24 * MB
    const image = blank(`${kind}.img`, bytes)
    run('mke2fs', '-q', '-t', kind, '-L', 'records', image)
    const volume = new MountedVolume(image, 0, bytes, 'ext')
    const all = await oneOfEach(kind === 'ext4' ? 120 : kind === 'ext3' ? 140 : 160)
    volume.putAll(all, 'guild/records/')
    volume.put('guild/minutes/march.txt', prose(121, 20_000))
    volume.settle()
    for (const name of Object.keys(all)) volume.delete(`guild/records/${name}`)
    volume.settle()
    volume.put('guild/minutes/april.txt', prose(122, 9000))
    keep(kind === 'ext4' ? 'server' : kind, `${kind}, one of each format deleted`, [volume])
  }
}

async function recorder() {
  // Two recordings written at once are interleaved.
  const image = blank('recorder.img', 40 * MB)
  run('mkfs.fat', '-F', '32', '-s', '1', '-n', 'RECORDER', image)
  const volume = new FatVolume(image, 0)
  const whole = await oneOfEach(180)
  const split = ['weir.jpg', 'plan.png', 'barge.mp4', 'letter.docx', 'tolls.pdf'] as const
  for (const [at, name] of split.entries()) {
    // A gap of half the file's size before a file that stays: the new file fills the gap and continues behind it.
    const half = Math.floor(whole[name]!.length / 2 / 512) * 512
    volume.put(`gap${at}.txt`, prose(190 + at, half))
    volume.put(`stays${at}.txt`, prose(200 + at, 1500 + at * 512))
    volume.delete(`gap${at}.txt`)
    volume.rewind()
    volume.put(name, whole[name]!)
    volume.put(`after${at}.txt`, prose(210 + at, 700))
  }
  for (const name of split) volume.delete(name)
  keep('recorder', 'FAT32, five files in two pieces each, deleted', [volume])
}

/** What file systems do beside plain files: pieces, holes, compression, content that is kept in the record. */
async function odd() {
  const kinds = [
    { name: 'odd-ntfs', how: 'ntfs', make: (loop: string) => run('mkfs.ntfs', '-q', '-Q', '-F', '-c', '1024', loop) },
    { name: 'odd-exfat', how: 'exfat', make: (loop: string) => run('mkfs.exfat', '-c', '4K', loop) },
    {
      name: 'odd-ext4',
      how: 'ext',
      make: (loop: string) => run('mke2fs', '-q', '-t', 'ext4', '-b', '1024', '-O', 'inline_data', loop),
    },
  ] as const
  for (const [at, { name, how, make }] of kinds.entries()) {
    const bytes = 12 * MB
    const image = blank(`${name}.img`, bytes)
    const loop = run('losetup', '-f', '--show', image).trim()
    make(loop)
    run('losetup', '-d', loop)
    const volume = new MountedVolume(image, 0, bytes, how)
    volume.put('kept in the record.txt', prose(400 + at, 48))
    volume.put('kept in the record and behind it.txt', prose(410 + at, 110))
    volume.putSparse('holes.bin', [
      [100_000, noise(420 + at, 3000)],
      [900_000, noise(430 + at, 10)],
    ])
    if (how === 'ntfs') {
      volume.makeFolder('packed')
      run('setfattr', '-h', '-v', '0x00000800', '-n', 'system.ntfs_attrib_be', join(volume.folder, 'packed'))
      for (const [index, size] of [3000, 70_000, 200_001].entries())
        volume.put(`packed/text ${index}.txt`, prose(440 + index, size))
      volume.put('packed/noise.dat', noise(450, 66_000))
    }
    volume.settle()
    // Small files fill the volume; what is written into the gaps between them is heavily fragmented.
    const small: string[] = []
    for (let index = 0; volume.room() > 700_000; index++) {
      small.push(`small/${index}`)
      volume.fill(`small/${index}`, Buffer.alloc(how === 'exfat' ? 4096 : 9000, 1 + (index % 7)))
    }
    for (const path of small.filter((_, index) => index % 2 === 0).slice(0, 160)) volume.unlink(path)
    volume.settle()
    volume.fill('fill', new Uint8Array(650_000))
    volume.put('pieces.jpg', await photo(460 + at, 1500))
    volume.put('lost pieces.png', await photo(470 + at, 300, 'png'))
    volume.put('Ünter uns – ein langer Name mit Zeichen, die nicht jeder hat (2).txt', prose(480 + at, 1500))
    volume.settle()
    volume.delete('lost pieces.png')
    if (how === 'ntfs') volume.delete('packed/text 2.txt')
    keep(name, 'pieces, holes, content in the record, and where there is compression, that', [volume])
  }
}

const made = {
  floppy,
  cards,
  cameraCard,
  stick,
  laptop,
  server,
  recorder,
  odd,
  heronCard,
  weaversStick,
  quayDisk,
  guildDisk,
  wharfCard,
  phoneClips,
}
const wanted = process.argv.slice(2)
try {
  for (const [name, make] of Object.entries(made)) if (wanted.length === 0 || wanted.includes(name)) await make()
} finally {
  rmSync(work, { recursive: true, force: true })
}
