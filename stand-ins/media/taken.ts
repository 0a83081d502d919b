import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import sharp from 'sharp'
import { asWritten } from './content'
import type { Scene } from './scenes'

/** A scene as a camera takes it: with grain, and its date. */
export async function shot(
  scene: Scene,
  seed: number,
  { width = 640, taken = null as Date | null, format = 'jpeg' as 'jpeg' | 'png' | 'tiff' } = {},
): Promise<Uint8Array> {
  const height = Math.round((width * 3) / 4)
  const grain = await sharp({
    create: { width, height, channels: 3, background: '#808080', noise: { type: 'gaussian', mean: 128, sigma: 22 } },
  })
    .png()
    .toBuffer()
  const plain = sharp(
    await sharp(Buffer.from(scene(seed, 0)))
      .resize(width, height)
      .flatten()
      .png()
      .toBuffer(),
  ).composite([{ input: grain, blend: 'soft-light' }])
  const dated = taken ? plain.withExif({ IFD2: { DateTimeOriginal: asWritten(taken) } }) : plain
  if (format === 'png') return dated.png({ palette: true, colours: 64 }).toBuffer()
  return format === 'tiff' ? dated.tiff({ compression: 'lzw' }).toBuffer() : dated.jpeg({ quality: 78 }).toBuffer()
}

const RATE = 12

/** A scene that moves for so many seconds, with the sound of water, made with ffmpeg. */
export async function film(
  scene: Scene,
  seed: number,
  { extension = 'mp4', seconds = 3, taken = null as Date | null, width = 256 } = {},
): Promise<Uint8Array> {
  const folder = mkdtempSync(join(tmpdir(), 'lantern-film-'))
  try {
    const frames = seconds * RATE
    for (let at = 0; at < frames; at++) {
      const frame = await sharp(Buffer.from(scene(seed, at / frames)))
        .resize(width, (width * 3) / 4)
        .png()
        .toBuffer()
      writeFileSync(join(folder, `${String(at).padStart(4, '0')}.png`), frame)
    }
    const out = join(folder, `film.${extension}`)
    const when = taken ? ['-metadata', `creation_time=${taken.toISOString()}`] : []
    execFileSync('ffmpeg', [
      ...['-v', 'error', '-y', '-framerate', String(RATE), '-i', join(folder, '%04d.png')],
      ...[
        '-f',
        'lavfi',
        '-i',
        `anoisesrc=color=brown:amplitude=0.3:duration=${seconds}:seed=${seed}:sample_rate=22050`,
      ],
      ...['-c:v', extension === 'avi' ? 'mjpeg' : 'libx264', '-pix_fmt', 'yuv420p'],
      ...['-c:a', extension === 'avi' ? 'pcm_s16le' : 'aac', '-shortest', '-fflags', '+bitexact', ...when, out],
    ])
    return readFileSync(out)
  } finally {
    rmSync(folder, { recursive: true })
  }
}

/** A recording at the lock: water, and a bell that is struck now and then; made with ffmpeg. */
export function recording(seed: number, extension: string, seconds: number): Uint8Array {
  const folder = mkdtempSync(join(tmpdir(), 'lantern-recording-'))
  try {
    const out = join(folder, `recording.${extension}`)
    const pitch = 380 + (seed % 7) * 34
    const bell = `aevalsrc=0.35*exp(-3*mod(t\\,1.4))*(sin(2*PI*${pitch}*t)+0.5*sin(2*PI*${pitch * 2.76}*t)):d=${seconds}:s=22050`
    execFileSync('ffmpeg', [
      ...['-v', 'error', '-y', '-f', 'lavfi', '-i', bell],
      ...[
        '-f',
        'lavfi',
        '-i',
        `anoisesrc=color=brown:amplitude=0.25:duration=${seconds}:seed=${seed}:sample_rate=22050`,
      ],
      ...['-filter_complex', 'amix=inputs=2', '-fflags', '+bitexact', out],
    ])
    return readFileSync(out)
  } finally {
    rmSync(folder, { recursive: true })
  }
}
