import { DAY_MS } from '../../core/cases/shape/moment'

/** Noon of the day on which the pictures and clips of the stand-in media were last written. */
export const MEDIA_DAY = Date.UTC(2026, 10, 20, 12)

const SECONDS_1904_TO_1970 = 2_082_844_800
const WRITTEN = /2026:\d\d:\d\d \d\d:\d\d:\d\d/
const pad = (number: number) => String(number).padStart(2, '0')

/**
 * Moves the dates that cameras wrote into pictures (Exif) and clips (the movie head) of an image by whole days, in place.
 * Neither is covered by a checksum.
 */
export function shiftDates(image: Buffer, days: number): void {
  if (days === 0) return
  for (let at = image.indexOf('2026:'); at >= 0; at = image.indexOf('2026:', at + 5)) {
    const told = image.toString('latin1', at, at + 19)
    if (!WRITTEN.test(told)) continue
    const [year, month, day, hour, minute, second] = told.split(/[: ]/).map(Number) as [
      number,
      number,
      number,
      number,
      number,
      number,
    ]
    const moved = new Date(Date.UTC(year, month - 1, day, hour, minute, second) + days * DAY_MS)
    const date = [moved.getUTCFullYear(), pad(moved.getUTCMonth() + 1), pad(moved.getUTCDate())].join(':')
    image.write(`${date} ${told.slice(11)}`, at, 'latin1')
  }
  shiftEntries(image, days)
  for (let at = image.indexOf('mvhd'); at >= 0; at = image.indexOf('mvhd', at + 4)) {
    if (at + 16 > image.length || image[at + 4] !== 0) continue
    for (const place of [at + 8, at + 12]) {
      const seconds = image.readUInt32BE(place)
      if (seconds > SECONDS_1904_TO_1970) image.writeUInt32BE((seconds + days * 86_400) >>> 0, place)
    }
  }
}

const ENTRY_BYTES = 32
const KINDS = 'JPG MP4 PNG GIF WEB BMP TIF AVI MOV M4A 3GP MKV WAV MP3 FLA OGG PDF DOC XLS RTF SQL TXT VCF ICS EML'
const TAKEN = new Set(KINDS.split(' '))

/** What folders of FAT volumes say of files: when they were made and last written (FAT32 File System Specification, 6). */
function shiftEntries(image: Buffer, days: number): void {
  for (let at = 0; at + ENTRY_BYTES <= image.length; at += ENTRY_BYTES) {
    if (image[at + 11] !== 0x20 || !TAKEN.has(image.toString('latin1', at + 8, at + 11))) continue
    for (const place of [at + 16, at + 24]) {
      const told = image.readUInt16LE(place)
      if (told >> 9 !== 2026 - 1980) continue
      const moved = new Date(Date.UTC(2026, ((told >> 5) & 15) - 1, (told & 31) + days))
      const date = ((moved.getUTCFullYear() - 1980) << 9) | ((moved.getUTCMonth() + 1) << 5) | moved.getUTCDate()
      image.writeUInt16LE(date, place)
    }
  }
}
