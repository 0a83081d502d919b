import { chances, pick } from '../content/chance'

/** What the owners of the stand-in media would have before their lens, drawn as SVG. `part`: how far into a film, 0 to 1. */
export type Scene = (seed: number, part: number) => string
const [WIDTH, HEIGHT] = [640, 480]
const svg = (body: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH}" height="${HEIGHT}" viewBox="0 0 ${WIDTH} ${HEIGHT}">${body}</svg>`
const rect = (x: number, y: number, width: number, height: number, fill: string, more = '') =>
  `<rect x="${x}" y="${y}" width="${width}" height="${height}" fill="${fill}" ${more}/>`
const times = <T>(count: number, make: (at: number) => T) => Array.from({ length: count }, (_, at) => make(at))

/** Dawn or dusk: sky over water, with a far bank. */
function water(chance: () => number, part: number): { body: string; bank: number } {
  const [high, low] = pick(
    [
      ['#8fa7b8', '#e9c9a2'],
      ['#b9c7cc', '#e8e0cf'],
      ['#5d7489', '#d99f76'],
      ['#a7b4a0', '#e3dfc4'],
    ] as const,
    chance,
  )
  const bank = 170 + chance() * 60
  const hills = times(11, (at) => `L${at * 64} ${bank - 18 - chance() * 40}`).join(' ')
  const ripples = times(26, () => {
    const [x, y] = [chance() * WIDTH, bank + 20 + chance() * (HEIGHT - bank - 30)]
    return `<path d="M${x + part * 30} ${y} h${20 + chance() * 70}" stroke="${low}" stroke-width="${1 + chance() * 2}" opacity=".5"/>`
  }).join('')
  return {
    bank,
    body: `<defs><linearGradient id="s" x2="0" y2="1"><stop stop-color="${high}"/><stop offset="1" stop-color="${low}"/></linearGradient><linearGradient id="w" x2="0" y2="1"><stop stop-color="${low}"/><stop offset="1" stop-color="#3d4f55"/></linearGradient></defs>${rect(0, 0, WIDTH, bank, 'url(#s)')}${rect(0, bank, WIDTH, HEIGHT - bank, 'url(#w)')}<path d="M0 ${bank} ${hills} L${WIDTH} ${bank}Z" fill="#59654f"/>${ripples}`,
  }
}

function reeds(chance: () => number, part: number): string {
  return times(46, () => {
    const x = chance() < 0.5 ? chance() * 190 : WIDTH - chance() * 190
    const lean = (chance() - 0.5) * 40 + Math.sin(part * 6 + x) * 6
    return `<path d="M${x} ${HEIGHT} q${lean / 3} -${60 + chance() * 70} ${lean} -${120 + chance() * 120}" stroke="${pick(['#6b6a3a', '#4f5a34', '#85744a'], chance)}" stroke-width="${2 + chance() * 3}" fill="none"/>`
  }).join('')
}

/** A heron that stands, steps or strikes, among reeds. */
export const heron: Scene = (seed, part) => {
  const chance = chances(seed * 17 + 3)
  const { body } = water(chance, part)
  const [x, y, size] = [180 + chance() * 260 + part * 40, 250 + chance() * 70, 0.8 + chance() * 0.7]
  const bow = chance() * 24 + Math.sin(part * 9) * 10
  const turned = chance() < 0.5 ? -1 : 1
  const bird = `<g transform="translate(${x} ${y}) scale(${size * turned} ${size})"><path d="M-8 20 l-6 74 M10 20 l4 76" stroke="#59503f" stroke-width="4"/><ellipse rx="44" ry="22" transform="rotate(-18)" fill="#7c8894"/><path d="M-40 12 q-20 10 -34 26 q26 0 50 -18z" fill="#5c6672"/><path d="M34 -14 q26 -22 8 -52 q-6 -20 14 -${26 + bow}" stroke="#e6e4dc" stroke-width="11" fill="none"/><circle cx="58" cy="${-96 - bow}" r="10" fill="#e6e4dc"/><path d="M64 ${-98 - bow} l44 8 l-43 6z" fill="#c99a45"/><path d="M52 ${-102 - bow} q-22 -4 -36 6" stroke="#22262b" stroke-width="4" fill="none"/><circle cx="61" cy="${-98 - bow}" r="2" fill="#111"/></g>`
  return svg(body + bird + reeds(chance, part))
}

/** Barges at the quay under the warehouses. */
export const quay: Scene = (seed, part) => {
  const chance = chances(seed * 13 + 5)
  const { body, bank } = water(chance, part)
  const houses = times(6, (at) => {
    const [x, high] = [at * 110 - 10, 90 + chance() * 70]
    const wall = pick(['#8a4f3a', '#a2684a', '#74564a', '#b08a66'], chance)
    const windows = times(6, (one) =>
      rect(x + 14 + (one % 3) * 30, bank - high + 22 + Math.floor(one / 3) * 34, 14, 20, '#2d2a2b'),
    ).join('')
    return `${rect(x, bank - high, 104, high, wall)}<path d="M${x - 4} ${bank - high} l56 -34 l56 34z" fill="#43383a"/>${windows}`
  }).join('')
  const barge = (x: number, y: number, hull: string) =>
    `<g transform="translate(${x} ${y})"><path d="M0 0 h230 l-18 34 h-196z" fill="${hull}"/>${rect(40, -34, 120, 34, '#d9c7a0')}${times(4, (at) => rect(50 + at * 28, -26, 14, 14, '#30404a')).join('')}${rect(178, -62, 6, 62, '#3a2d25')}</g>`
  const first = barge(
    60 + chance() * 120 + part * 120,
    bank + 60 + chance() * 30,
    pick(['#2f4a3d', '#5b2b27', '#27405b'], chance),
  )
  const second = barge(
    300 + chance() * 140,
    bank + 150 + chance() * 40,
    pick(['#3d3d52', '#6b4a23', '#2f4a3d'], chance),
  )
  return svg(body + houses + first + second)
}

/** A block of a quilt: nine patches, or strips around a middle. */
export const quilt: Scene = (seed, part) => {
  const chance = chances(seed * 11 + 9)
  const cloths = ['#7d3b2e', '#c98f4e', '#395a5a', '#e3d2b0', '#5b4a66', '#8b9a6b', '#2f3b4f', '#d7b7a2']
  const isStrips = seed % 2 === 0
  const edge = 120
  const cloth = () => pick(cloths, chance)
  const block = (x: number, y: number): string => {
    if (!isStrips)
      return times(9, (at) => rect(x + (at % 3) * 40, y + Math.floor(at / 3) * 40, 40, 40, cloth())).join('')
    return (
      times(5, (at) => rect(x + at * 10, y + at * 10, edge - at * 20, edge - at * 20, cloth())).join('') +
      rect(x + 50, y + 50, 20, 20, '#7d3b2e')
    )
  }
  const blocks = times(20, (at) => block(20 + (at % 5) * edge, ((at / 5) | 0) * edge)).join('')
  const stitches = times(5, (at) => `<path d="M20 ${at * edge} h600" stroke="#f3ead8" stroke-dasharray="7 5"/>`).join(
    '',
  )
  return svg(
    `${rect(0, 0, WIDTH, HEIGHT, '#4a3d33')}<g transform="rotate(${(chance() - 0.5) * 3 + part * 4} 320 240)">${blocks}${stitches}</g>`,
  )
}

/** A hall with bunting and a stall, as at a raffle. */
export const hall: Scene = (seed, part) => {
  const chance = chances(seed * 7 + 1)
  const flags = times(16, (at) => {
    const sag = Math.sin((at / 15) * Math.PI) * 46 + Math.sin(part * 8 + at) * 3
    return `<path d="M${at * 42} ${60 + sag} l34 0 l-17 40z" fill="${pick(['#a3402b', '#d9a441', '#2f5d5d', '#e8dcc0'], chance)}"/>`
  }).join('')
  const jars = times(
    9,
    (at) =>
      `${rect(70 + at * 56, 286, 34, 44, pick(['#8a3b2b', '#c78a3b', '#6d7a4d', '#5a3a52'], chance), 'rx="6"')}${rect(72 + at * 56, 280, 30, 9, '#d8cfbb')}`,
  ).join('')
  return svg(
    `${rect(0, 0, WIDTH, HEIGHT, '#d8c9ab')}${times(5, (at) => rect(40 + at * 124, 120, 66, 120, '#a9c0c4', 'stroke="#6d5a45" stroke-width="8"')).join('')}${rect(0, 380, WIDTH, 100, '#8a6a4a')}${flags}${rect(40, 330, 560, 90, '#6b4230')}${jars}`,
  )
}

/** A page of a minute book, as it was photographed. */
export const page: Scene = (seed) => {
  const chance = chances(seed * 5 + 2)
  const lines = times(18, (at) => {
    const words = times(5 + Math.floor(chance() * 3), () => {
      const x = 130 + chance() * 330
      return `<path d="M${x} ${96 + at * 19} q8 -9 15 0 t15 0 t${10 + chance() * 18} 0" stroke="#3b3550" stroke-width="2" fill="none"/>`
    }).join('')
    return `<path d="M110 ${102 + at * 19} h420" stroke="#b9c0cc"/>${words}`
  }).join('')
  return svg(
    `${rect(0, 0, WIDTH, HEIGHT, '#5a4636')}<g transform="rotate(${(chance() - 0.5) * 5} 320 240)">${rect(90, 30, 460, 420, '#efe6d0')}<path d="M140 30 v420" stroke="#c58f86"/>${rect(190, 50, 220, 14, '#4a4038')}${lines}</g>`,
  )
}
