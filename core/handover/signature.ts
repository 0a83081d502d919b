import { z } from 'zod'

const coordinate = z.number().min(0).max(4000)

/** A signature as it was drawn: strokes of points in pixels of a field. */
export const Signature = z.object({
  width: z.int().min(50).max(4000),
  height: z.int().min(30).max(4000),
  strokes: z
    .array(
      z
        .array(z.tuple([coordinate, coordinate]))
        .min(1)
        .max(5000),
    )
    .min(1, 'is empty')
    .max(200),
})
export type Signature = z.infer<typeof Signature>

/** Fewer points than this are a slip of the pen. */
const LEAST_POINTS = 8

/** Whether enough was drawn to be a signature. */
export const isSigned = ({ strokes }: Pick<Signature, 'strokes'>): boolean =>
  strokes.reduce((sum, stroke) => sum + stroke.length, 0) >= LEAST_POINTS

/**
 * A signature as SVG (version 1.1, paths, section 8.3), made from its points alone: nothing that a browser sent as text is in
 * it. A single point is drawn as a dot.
 */
export function signatureSvg({ width, height, strokes }: Signature): string {
  const paths = strokes.map(([first, ...rest]) => {
    const [x, y] = first!.map(short)
    const lines = rest.length === 0 ? `L${x} ${y}` : rest.map(([toX, toY]) => `L${short(toX)} ${short(toY)}`).join('')
    return `<path d="M${x} ${y}${lines}"/>`
  })
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}"><g fill="none" stroke="#1d1613" stroke-width="2.4" stroke-linecap="round" stroke-linejoin="round">${paths.join('')}</g></svg>`
}

/** Whether an SVG is one of those: what another shop calls a signature could hold a program. */
export const isSignatureSvg = (text: string): boolean =>
  /^<svg xmlns="http:\/\/www\.w3\.org\/2000\/svg" width="\d+" height="\d+" viewBox="0 0 \d+ \d+"><g fill="none" stroke="#1d1613" stroke-width="2\.4" stroke-linecap="round" stroke-linejoin="round">(<path d="M[\d. ]+(L[\d. ]+)+"\/>)+<\/g><\/svg>$/.test(
    text,
  )

const short = (value: number) => Math.round(value * 10) / 10
