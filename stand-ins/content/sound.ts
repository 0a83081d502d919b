import { chances } from './chance'

const RATE = 8000
const SECONDS = 2

/** Two seconds of a made-up tune as a WAV file: 8 bit, mono. */
export function sound(seed: number): Uint8Array {
  const chance = chances(seed)
  const samples = RATE * SECONDS
  const bytes = new Uint8Array(44 + samples)
  const view = new DataView(bytes.buffer)
  const text = (at: number, letters: string) => {
    for (const [index, letter] of [...letters].entries()) bytes[at + index] = letter.charCodeAt(0)
  }
  text(0, 'RIFF')
  view.setUint32(4, 36 + samples, true)
  text(8, 'WAVEfmt ')
  view.setUint32(16, 16, true)
  view.setUint16(20, 1, true)
  view.setUint16(22, 1, true)
  view.setUint32(24, RATE, true)
  view.setUint32(28, RATE, true)
  view.setUint16(32, 1, true)
  view.setUint16(34, 8, true)
  text(36, 'data')
  view.setUint32(40, samples, true)
  let pitch = 220
  for (let at = 0; at < samples; at++) {
    if (at % 2000 === 0) pitch = 180 + chance() * 400
    const loud = 1 - (at % 2000) / 2000
    bytes[44 + at] = 128 + Math.round(Math.sin((at / RATE) * pitch * 2 * Math.PI) * 90 * loud)
  }
  return bytes
}
