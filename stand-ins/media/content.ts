import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import sharp from 'sharp'
import { chances, pick } from '../content/chance'
import { databaseOf } from '../content/databases'
import { pdf, sheet, textDocument } from '../content/documents'
import { contacts, messages } from '../content/people'
import { sound } from '../content/sound'

const WORDS = 'sluice lock towpath ledger quilt heron mill barge oat barley wick lantern rope tallow kiln ford'.split(
  ' ',
)

/** Sentences that nobody wrote, so many bytes of them. */
export function prose(seed: number, bytes: number): Uint8Array {
  const chance = chances(seed)
  let text = ''
  while (text.length < bytes) {
    const words = Array.from({ length: 5 + Math.floor(chance() * 9) }, () => pick(WORDS, chance))
    text += `${words[0]![0]!.toUpperCase()}${words.join(' ').slice(1)}.${chance() < 0.2 ? '\n\n' : ' '}`
  }
  return new TextEncoder().encode(text.slice(0, bytes))
}

export function noise(seed: number, bytes: number): Uint8Array {
  const chance = chances(seed)
  return Uint8Array.from({ length: bytes }, () => Math.floor(chance() * 256))
}

/** As cameras write a date (Exif 2.3, 4.6.5). */
export const asWritten = (moment: Date) => moment.toISOString().slice(0, 19).replace('T', ' ').replaceAll('-', ':')

/** A made-up view over a moor: sky, hills, bog, each with colours of its own. */
function landscape(seed: number, width: number, height: number) {
  const chance = chances(seed * 31 + 7)
  const mixed = (a: readonly number[], b: readonly number[], part: number) =>
    a.map((value, channel) => 20 + (value + (b[channel]! - value) * part) * 0.84)
  const sky = pick(
    [
      [150, 178, 204],
      [214, 190, 150],
      [186, 196, 200],
      [228, 170, 120],
    ] as const,
    chance,
  )
  const hill = pick(
    [
      [96, 118, 92],
      [128, 104, 78],
      [92, 104, 122],
    ] as const,
    chance,
  )
  const bog = pick(
    [
      [132, 96, 58],
      [104, 110, 62],
      [78, 84, 74],
    ] as const,
    chance,
  )
  const [horizon, slope, wave, water] = [
    0.3 + chance() * 0.25,
    (chance() - 0.5) * 0.3,
    2 + chance() * 4,
    0.75 + chance() * 0.2,
  ]
  return (x: number, y: number) => {
    const [across, down] = [x / width, y / height]
    const ridge = horizon + slope * (across - 0.5) + 0.05 * Math.sin(across * wave * 3)
    if (down < ridge) return mixed(sky, [250, 246, 236], down / ridge)
    if (down < ridge + 0.18) return mixed(hill, sky, (ridge + 0.18 - down) * 2)
    return down > water ? mixed(sky, bog, 0.35) : mixed(bog, [30, 26, 20], down - ridge)
  }
}

/** A picture with grain in it, so that it does not shrink to nothing; about `width` squared over ten bytes. */
export async function photo(
  seed: number,
  width: number,
  format: 'jpeg' | 'png' | 'webp' | 'gif' | 'tiff' | 'avif' = 'jpeg',
  taken: Date | null = null,
) {
  const height = Math.round((width * 3) / 4)
  const chance = chances(seed)
  const raw = Buffer.alloc(width * height * 3)
  const [a, b, c] = [chance() * 6, chance() * 6, 20 + chance() * 30]
  const scene = taken ? landscape(seed, width, height) : null
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const light = 128 + 80 * Math.sin(x / c + a) * Math.cos(y / c + b)
      for (let channel = 0; channel < 3; channel++)
        if (scene) raw[(y * width + x) * 3 + channel] = scene(x, y)[channel]! + (chance() - 0.5) * 24
        else
          raw[(y * width + x) * 3 + channel] = Math.max(0, Math.min(255, light + channel * 12 + (chance() - 0.5) * 24))
    }
  const plain = sharp(raw, { raw: { width, height, channels: 3 } })
  const picture = taken ? plain.withExif({ IFD2: { DateTimeOriginal: asWritten(taken) } }) : plain
  if (format === 'jpeg') return picture.jpeg({ quality: 82 }).toBuffer()
  if (format === 'png') return picture.png().toBuffer()
  if (format === 'webp') return picture.webp({ quality: 70 }).toBuffer()
  if (format === 'gif') return picture.gif().toBuffer()
  if (format === 'avif') return picture.avif({ quality: 50, effort: 0 }).toBuffer()
  return picture.tiff({ compression: 'none' }).toBuffer()
}

/** Sound and moving pictures of a few seconds, made with ffmpeg. */
export function clip(seed: number, extension: string, seconds = 2, taken: Date | null = null): Uint8Array {
  const folder = mkdtempSync(join(tmpdir(), 'lantern-clip-'))
  try {
    const out = join(folder, `clip.${extension}`)
    const isSound = ['mp3', 'flac', 'ogg', 'm4a', 'wav'].includes(extension)
    const tone = `aevalsrc=0.4*sin(2*PI*${220 + seed * 7}*t)+0.1*random(${seed}):d=${seconds}:s=22050`
    const scene = `testsrc2=size=192x144:rate=12:duration=${seconds},hue=h=${seed * 20}`
    const inputs = isSound ? ['-f', 'lavfi', '-i', tone] : ['-f', 'lavfi', '-i', scene, '-f', 'lavfi', '-i', tone]
    const when = taken ? ['-metadata', `creation_time=${taken.toISOString()}`] : []
    const codecs = isSound
      ? []
      : extension === 'webm'
        ? ['-c:v', 'libvpx', '-c:a', 'libvorbis']
        : extension === 'avi'
          ? ['-c:v', 'mjpeg', '-c:a', 'pcm_s16le']
          : extension === '3gp'
            ? ['-c:v', 'mpeg4', '-c:a', 'aac']
            : ['-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-c:a', 'aac']
    execFileSync('ffmpeg', [
      '-v',
      'error',
      '-y',
      ...inputs,
      ...codecs,
      '-shortest',
      '-fflags',
      '+bitexact',
      ...when,
      out,
    ])
    return readFileSync(out)
  } finally {
    rmSync(folder, { recursive: true })
  }
}

/** An uncompressed bitmap. */
export function bitmap(seed: number, width: number): Uint8Array {
  const height = width
  const row = Math.ceil((width * 3) / 4) * 4
  const bytes = Buffer.from(noise(seed, 54 + row * height))
  bytes.write('BM', 0, 'latin1')
  bytes.writeUInt32LE(bytes.length, 2)
  bytes.writeUInt32LE(0, 6)
  bytes.writeUInt32LE(54, 10)
  bytes.writeUInt32LE(40, 14)
  bytes.writeInt32LE(width, 18)
  bytes.writeInt32LE(height, 22)
  bytes.writeUInt16LE(1, 26)
  bytes.writeUInt16LE(24, 28)
  bytes.fill(0, 30, 54)
  return bytes
}

export function card(seed: number): Uint8Array {
  const [one] = contacts(seed, 1)
  return new TextEncoder().encode(
    `BEGIN:VCARD\r\nVERSION:4.0\r\nFN:${one!.name}\r\nTEL:${one!.phones[0] ?? '0'}\r\nEND:VCARD\r\n`,
  )
}

export function calendar(seed: number): Uint8Array {
  return new TextEncoder().encode(
    `BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//Quay//EN\r\nBEGIN:VEVENT\r\nUID:${seed}@quay.example\r\nDTSTART:20261101T100000Z\r\nSUMMARY:Open the lock ${seed}\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n`,
  )
}

export function letter(seed: number): Uint8Array {
  return new TextEncoder().encode(
    `From: "Keeper" <keeper@quay.example>\r\nTo: <mill@quay.example>\r\nSubject: Tolls ${seed}\r\nDate: Sun, 01 Nov 2026 10:00:00 +0000\r\nMessage-ID: <${seed}@quay.example>\r\nMIME-Version: 1.0\r\nContent-Type: text/plain\r\n\r\n${new TextDecoder().decode(prose(seed, 1800)).replaceAll('\n', '\r\n')}\r\n`,
  )
}

export const rich = (seed: number) =>
  new TextEncoder().encode(
    `{\\rtf1\\ansi{\\fonttbl{\\f0 Serif;}}\\f0 ${new TextDecoder().decode(prose(seed, 3000))}\\par}`,
  )

export const database = (seed: number) =>
  databaseOf(
    'message',
    messages(
      seed,
      contacts(seed, 6),
      Array.from({ length: 80 }, (_, at) => 1.79e12 + at * 6e4),
    ),
  )
export const tune = (seed: number) => sound(seed)
export { pdf, sheet, textDocument }

/** One file of each recoverable kind, in formats that hide it. */
export async function oneOfEach(seed: number): Promise<Record<string, Uint8Array>> {
  const lines = new TextDecoder().decode(prose(seed, 2400)).split('. ')
  return {
    'weir.jpg': await photo(seed, 480),
    'plan.png': await photo(seed + 1, 160, 'png'),
    'flag.gif': await photo(seed + 2, 140, 'gif'),
    'gate.webp': await photo(seed + 3, 480, 'webp'),
    'stone.bmp': bitmap(seed + 4, 90),
    'chart.tif': await photo(seed + 5, 120, 'tiff'),
    'roof.avif': await photo(seed + 6, 320, 'avif'),
    'barge.mp4': clip(seed + 7, 'mp4'),
    'barge.mov': clip(seed + 8, 'mov'),
    'call.m4a': clip(seed + 9, 'm4a'),
    'phone.3gp': clip(seed + 10, '3gp'),
    'winch.avi': clip(seed + 11, 'avi', 1),
    'winch.mkv': clip(seed + 12, 'mkv'),
    'winch.webm': clip(seed + 13, 'webm'),
    'bell.wav': clip(seed + 14, 'wav', 1),
    'bell.mp3': clip(seed + 15, 'mp3'),
    'bell.flac': clip(seed + 16, 'flac', 1),
    'bell.ogg': clip(seed + 17, 'ogg'),
    'tolls.pdf': pdf(lines),
    'letter.docx': await textDocument(lines),
    'tolls.xlsx': await sheet(lines.map((line, at): (string | number)[] => [at, line])),
    'notes.rtf': rich(seed),
    'store.sqlite': database(seed),
    'diary.txt': prose(seed + 18, 5000),
    'miller.vcf': card(seed),
    'locks.ics': calendar(seed),
    'tolls.eml': letter(seed),
  }
}
