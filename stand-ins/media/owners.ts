import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { calendar, card, database, letter, noise, pdf, prose, rich, sheet, textDocument } from './content'
import { hall, heron, page, quay, quilt } from './scenes'
import { film, recording, shot } from './taken'
import {
  blank,
  type Bytes,
  FatVolume,
  installAgain,
  keep,
  MB,
  MountedVolume,
  oldSystemDisk,
  onDay,
  run,
  twoVolumeCard,
} from './volumes'

const numbered = (at: number, digits = 4) => String(at).padStart(digits, '0')
const list = <T>(count: number, make: (at: number) => T) => Array.from({ length: count }, (_, at) => make(at + 1))

/** Written by people, a few lines each. */
const WATCH = [
  'Heron watch, notes at the weir.',
  'Two adults on the nest by first light, one on the lower weir.',
  'Water high after the rain, no fishing before nine.',
  'Young calling for food at twenty past six, fed three times.',
  'A barge came through at ten; they went up and settled again.',
  'Films of the feeding are on the card, the long one is from Sunday.',
  'Count for the week: seven adults, four young, one nest given up.',
]
const GUILD = [
  'Minutes of the guild, taken at the long table.',
  'Present: eleven, with apologies from the mill.',
  'The roof of the store has to be mended before the frost.',
  'Tolls of the spring quarter were read and found right.',
  'The ledger of 1911 is to be photographed page by page.',
  'Bread and barley for the watch: agreed, at the old price.',
  'Next meeting on the first Monday, at six.',
]
const HARBOUR = [
  'To the harbour office.',
  'The berth at the lower quay has been ours since the spring.',
  'The fee for the winter was paid in October, see the enclosed sheet.',
  'The mooring ring by the steps is loose and should be repaired.',
  'We are glad to keep the lamp on the quay lit, as agreed.',
  'With kind regards from the tug.',
]
const PATTERN = [
  'Log cabin, a block of twelve inches.',
  'Cut the middle two inches square, in red.',
  'Strips of an inch and a quarter, light on two sides, dark on two.',
  'Press every seam before the next strip.',
  'Twenty blocks make the wall hanging, four by five.',
]
const text = (lines: readonly string[]) => new TextEncoder().encode(`${lines.join('\n')}\n`)
const fees = (seed: number) =>
  sheet([
    ['month', 'berth', 'fee'],
    ...list(12, (at): (string | number)[] => [`month ${at}`, (seed + at) % 9, 40 + ((seed * at) % 7) * 5]),
  ])

/** The card of a camera at a nest: everything deleted, and a few files of the observer on a second volume. */
export async function heronCard() {
  const [nest, spare] = twoVolumeCard('heron-card', ['HERONWATCH', 'SPARE'])
  const taken = (at: number) => onDay(-14 + Math.floor(at / 3), 6 + (at % 3) * 5)
  const names: string[] = []
  for (let at = 1; at <= 18; at++) {
    names.push(`DCIM/100HERON/HERN${numbered(at)}.JPG`)
    nest.put(names.at(-1)!, await shot(heron, 500 + at, { taken: taken(at), width: 560 + (at % 4) * 80 }), taken(at))
    if (at % 4 !== 0) continue
    names.push(`DCIM/100HERON/HERN9${numbered(at / 4, 3)}.MP4`)
    nest.put(names.at(-1)!, await film(heron, 520 + at, { taken: taken(at), seconds: 3 + (at % 3) }), taken(at))
  }
  names.push('NOTES.TXT')
  nest.put('NOTES.TXT', text(WATCH), taken(18))
  for (const name of names) nest.delete(name)
  spare.putAll({
    'calls at dusk.wav': recording(531, 'wav', 2),
    'nest from the bridge.jpg': await shot(heron, 532, { width: 480 }),
    'count of the week.txt': text(WATCH.toReversed()),
  })
  spare.delete('nest from the bridge.jpg')
  spare.delete('count of the week.txt')
  keep('heron-card', 'a camera at a nest: two partitions, pictures and films deleted from FAT32', [nest, spare])
}

/** Patterns of weavers, on a stick that was formatted and used again. */
export async function weaversStick() {
  const bytes = 24 * MB
  const image = blank('weavers-stick.img', bytes)
  run('mkfs.exfat', '-L', 'PATTERNS', image)
  const volume = new MountedVolume(image, 0, bytes, 'exfat')
  const names = [
    'Log cabin',
    'Nine patch',
    'Courthouse steps',
    'Garden path',
    'Flying geese',
    'Bear’s paw',
    'Mill wheel',
  ]
  // What is written after the format lands on this file, and not on the patterns.
  volume.fill('patterns/unused.dat', new Uint8Array(MB))
  for (const [at, name] of names.entries()) {
    volume.put(`patterns/${name}.jpg`, await shot(quilt, 600 + at, { width: 640 }))
    volume.put(`patterns/${name}.pdf`, pdf([name, ...PATTERN, ...list(20, (row) => `Row ${row}: light, dark, light.`)]))
  }
  volume.putAll(
    {
      'Chart of the wall hanging.png': await shot(quilt, 610, { width: 420, format: 'png' }),
      'Cloth that is left.xlsx': await fees(61),
      'Dye book.docx': await textDocument([
        ...PATTERN,
        ...list(30, (at) => `Bath ${at}: madder, an hour at a simmer.`),
      ]),
      'Fair in August.mp4': await film(hall, 612, { seconds: 4 }),
      'Loom in the yard.mp3': recording(613, 'mp3', 4),
      'Song of the yard.wav': recording(614, 'wav', 2),
      'Treadles.flac': recording(615, 'flac', 2),
      'Bell at noon.ogg': recording(616, 'ogg', 3),
      'Shuttle.m4a': recording(617, 'm4a', 3),
    },
    'yard/',
  )
  volume.settle()
  volume.format('mkfs.exfat', '-L', 'NEW STICK')
  volume.putAll({
    'raffle.txt': text(['Raffle at the hall', ...list(20, (at) => `Ticket ${at}: drawn`)]),
    'stall.jpg': await shot(hall, 620, { width: 480 }),
    'hall/plan of the hall in June.png': await shot(hall, 621, { width: 320, format: 'png' }),
    'hall/bunting.jpg': await shot(hall, 622, { width: 520 }),
  })
  volume.settle()
  for (const name of ['stall.jpg', 'hall/plan of the hall in June.png', 'hall/bunting.jpg']) volume.delete(name)
  keep('weavers-stick', 'exFAT, formatted and used again; some of the new files deleted', [volume])
}

/** The disk of a laptop on which the system was installed again. */
export async function quayDisk() {
  const volume = oldSystemDisk('quay-disk')
  const pictures: Record<string, Bytes> = {}
  for (let at = 1; at <= 9; at++)
    pictures[`Quay at low water ${at}.jpg`] = await shot(quay, 700 + at, { width: 640, taken: onDay(-40 + at * 3, 15) })
  volume.putAll(pictures, 'People/Hanna/Pictures/')
  volume.putAll(
    {
      'Letter to the harbour office.docx': await textDocument(HARBOUR),
      'Berth fees.xlsx': await fees(70),
      'Insurance of the tug.pdf': pdf([...HARBOUR, ...list(24, (at) => `Part ${at}: hull, lamp and line.`)]),
      'Recipes.rtf': rich(72),
      'Addresses.vcf': card(73),
      'Tides and dates.ics': calendar(74),
      'Answer of the harbour.eml': letter(75),
      'Log of the tug.txt': text([
        ...HARBOUR,
        ...list(60, (at) => `Day ${at}: two barges up, one down, wind from the west.`),
      ]),
      'messages.sqlite': database(76),
    },
    'People/Hanna/Documents/',
  )
  volume.put('People/Hanna/Films/Tug at the quay.mp4', await film(quay, 720, { seconds: 5, taken: onDay(-20, 11) }))
  volume.put('People/Hanna/Music/Chapel bell.mp3', recording(721, 'mp3', 5))
  installAgain(volume)
  const desk: Record<string, Bytes> = {}
  for (let at = 1; at <= 6; at++)
    desk[`Barge ${at}.jpg`] = await shot(quay, 740 + at, { width: 560, taken: onDay(-4, 9 + at) })
  desk['Timetable.pdf'] = pdf(list(30, (at) => `Ferry ${at}: from the steps at ${at % 12} o’clock`))
  desk['To do.txt'] = text(['Paint the lamp', 'Oil the winch', 'Call the harbour'])
  volume.putAll(desk, 'People/Hanna/Desk/')
  volume.settle()
  for (const name of Object.keys(desk)) volume.delete(`People/Hanna/Desk/${name}`)
  volume.settle()
  volume.put('System/late.dat', noise(899, 90_000))
  keep('quay-disk', 'GPT with NTFS, the system installed again; then the new files of the desk deleted', [volume])
}

/** The disk of a guild that photographs its old books. */
export async function guildDisk() {
  const bytes = 32 * MB
  const image = blank('guild-disk.img', bytes)
  run('mke2fs', '-q', '-t', 'ext4', '-L', 'records', image)
  const volume = new MountedVolume(image, 0, bytes, 'ext')
  const records: Record<string, Bytes> = {}
  for (let at = 1; at <= 12; at++)
    records[`ledger-1911/page ${numbered(at, 3)}.jpg`] = await shot(page, 900 + at, {
      width: 640,
      taken: onDay(-60 + at, 10),
    })
  for (let at = 1; at <= 2; at++)
    records[`ledger-1911/cover ${at}.tif`] = await shot(page, 920 + at, { width: 320, format: 'tiff' })
  for (const [at, month] of ['January', 'February', 'March', 'April', 'May'].entries())
    records[`minutes/Minutes of ${month}.docx`] = await textDocument(
      [`${month}.`, ...GUILD, ...list(20, (no) => `${no}. Agreed.`)].slice(0, 20 + at),
    )
  records['accounts/Tolls of the spring.xlsx'] = await fees(93)
  records['accounts/Roof of the store.pdf'] = pdf([...GUILD, ...list(22, (at) => `Slates, row ${at}`)])
  records['letters.sqlite'] = database(95)
  for (let at = 1; at <= 6; at++)
    records[`films/Procession ${at}.mp4`] = await film(at % 2 ? hall : quay, 930 + at, {
      seconds: 3,
      taken: onDay(-90 + at, 14),
    })
  volume.putAll(records, 'guild/')
  volume.put('guild/minutes/Standing rules.txt', prose(121, 20_000))
  volume.settle()
  for (const name of Object.keys(records)) volume.delete(`guild/${name}`)
  volume.settle()
  volume.put('guild/minutes/Minutes of June.txt', text(GUILD))
  keep('guild-disk', 'ext4, the records of a guild deleted', [volume])
}

/** A recorder at the wharf: recordings and pictures in two pieces each, deleted. */
export async function wharfCard() {
  const image = blank('wharf-card.img', 40 * MB)
  run('mkfs.fat', '-F', '32', '-s', '1', '-n', 'WHARF', image)
  const volume = new FatVolume(image, 0)
  const split: Record<string, Bytes> = {
    'WHARF001.WAV': recording(1001, 'wav', 4),
    'WHARF002.MP3': recording(1002, 'mp3', 8),
    'crane.jpg': await shot(quay, 1003, { width: 640 }),
    'steps.jpg': await shot(quay, 1004, { width: 520 }),
    'barge passing.mp4': await film(quay, 1005, { seconds: 4 }),
    'list of recordings.docx': await textDocument(
      list(40, (at) => `WHARF${numbered(at, 3)}: bell, water, voices on the steps`),
    ),
    'permission.pdf': pdf([...HARBOUR, 'Recording at the wharf is allowed until the end of the year.']),
  }
  for (const [at, [name, bytes]] of Object.entries(split).entries()) {
    // A gap of half the file's size before a file that stays: the new file fills the gap and continues behind it.
    const half = Math.floor(bytes.length / 2 / 512) * 512
    volume.put(`TAKE${at}.TMP`, noise(1010 + at, half))
    volume.put(`marks of take ${at}.txt`, prose(1020 + at, 1500 + at * 512))
    volume.delete(`TAKE${at}.TMP`)
    volume.rewind()
    volume.put(name, bytes)
    volume.put(`index ${at}.txt`, prose(1030 + at, 700))
  }
  for (const name of Object.keys(split)) volume.delete(name)
  keep('wharf-card', 'FAT32, recordings in two pieces each, deleted', [volume])
}

/** The clips that the stand-in phones and accounts hold. */
export async function phoneClips() {
  const folder = join(import.meta.dirname, '../content/clips')
  for (const [at, scene] of [heron, quay, hall].entries())
    writeFileSync(join(folder, `clip-${at + 1}.mp4`), await film(scene, 1100 + at, { seconds: 2, width: 128 }))
}
