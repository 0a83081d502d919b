import sharp from 'sharp'
import { chances, pick } from './chance'

const WIDTH = 320
const HEIGHT = 240
const SKIES = ['#b8c9d1', '#d9c6a5', '#9fb4bf', '#e2d3b5', '#8fa5ad', '#cfd8d2']
const LANDS = ['#5f6b4a', '#7a6548', '#495a4e', '#8b7355', '#6f7f5c', '#54483d']
const WATERS = ['#6f8f9a', '#4f6f79', '#8aa3a5', '#5d7a72']

/** A made-up view over land and water, as a JPEG with the data that a camera writes into it. */
export async function picture(seed: number, made: Date, camera: string): Promise<Uint8Array> {
  const taken = made.toISOString().slice(0, 19).replaceAll('-', ':').replace('T', ' ')
  const jpeg = await sharp(Buffer.from(view(seed)))
    .jpeg({ quality: 72 })
    .withExif({
      IFD0: { Make: camera.split(' ')[0]!, Model: camera, DateTime: taken },
      IFD2: { DateTimeOriginal: taken, OffsetTimeOriginal: '+00:00' },
    })
    .toBuffer()
  return new Uint8Array(jpeg)
}

function view(seed: number): string {
  const chance = chances(seed)
  const horizon = 90 + chance() * 70
  const hills = [0, 1, 2]
    .map((layer) => {
      const base = horizon + layer * 14
      const points = Array.from({ length: 9 }, (_, at) => `${at * 40} ${base - chance() * (46 - layer * 12)}`).join(
        ' L',
      )
      return `<path d="M0 ${HEIGHT} L0 ${base} L${points} L${WIDTH} ${HEIGHT}Z" fill="${pick(LANDS, chance)}" opacity="${0.6 + layer * 0.2}"/>`
    })
    .join('')
  const water = `<rect y="${horizon + 46}" width="${WIDTH}" height="${HEIGHT}" fill="${pick(WATERS, chance)}"/>`
  const posts = Array.from({ length: Math.floor(chance() * 7) }, () => {
    const x = chance() * WIDTH
    return `<rect x="${x}" y="${horizon + 20 + chance() * 40}" width="${3 + chance() * 4}" height="${30 + chance() * 50}" fill="#3a2d25"/>`
  }).join('')
  const sun = `<circle cx="${chance() * WIDTH}" cy="${chance() * horizon}" r="${8 + chance() * 22}" fill="#f6e3b0" opacity=".8"/>`
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH}" height="${HEIGHT}"><rect width="${WIDTH}" height="${HEIGHT}" fill="${pick(SKIES, chance)}"/>${sun}${hills}${water}${posts}</svg>`
}
