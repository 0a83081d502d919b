import { partial, unverified, type Format } from './format'

const KIND = { mime: 'image/bmp', extension: 'bmp', type: 'photos' } as const

/** Bitmap: it has no checksums, so it is at best unverified. */
export const bmp: Format = {
  id: 'bmp',
  isLoose: true,
  extensions: ['bmp'],
  signatures: [[0, 'BM']],
  walk(reader) {
    const [bytes, from, header] = [reader.u32le(2), reader.u32le(10), reader.u32le(14)]
    const [width, height] = [reader.u32le(18), Math.abs(reader.u32le(22) | 0)]
    const [planes, depth, packing] = [reader.u16le(26), reader.u16le(28), reader.u32le(30)]
    if (!reader.is(0, 'BM') || !reader.has(0, 54) || reader.u32le(6) !== 0) return null
    if (![40, 52, 56, 64, 108, 124].includes(header) || planes !== 1 || ![1, 4, 8, 16, 24, 32].includes(depth))
      return null
    if (
      from < 14 + header ||
      from >= bytes ||
      width === 0 ||
      width > 100_000 ||
      height === 0 ||
      height > 100_000 ||
      packing > 6
    )
      return null
    const need = from + Math.ceil((width * depth) / 32) * 4 * height
    if ((packing === 0 || packing === 3) && (bytes < need || bytes > need + 4096)) return null
    if (bytes > reader.size) return partial(KIND, { provenTo: 54, breaksAt: reader.size, why: 'file is truncated' })
    return unverified(KIND, bytes, 'size matches width, height and depth')
  },
}
