import { existsSync, readFileSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import { standIns } from '../../stand-ins/things'
import type { Making } from '../../stand-ins/content/making'
import type { Contents, Thing } from '../../stand-ins/helper/things'
import { demoTimes } from '../../stand-ins/shop/times'

/** Makes all or some stand-ins in their first state, with dates relative to now (ms). */
export function makeStandIns(
  contents: Contents,
  now: number,
  zone: string,
  only?: ReadonlySet<string>,
): Promise<Thing[]> {
  const making: Making = { time: demoTimes(now, zone), contents, clip: clipReader() }
  return Promise.all(standIns.filter(({ id }) => only?.has(id) ?? true).map(({ make }) => make(making)))
}

/** The clips are beside the built server, or in the source tree during development. */
function clipReader(): Making['clip'] {
  const folder = [join(dirname(process.argv[1] ?? ''), 'clips'), resolve('stand-ins/content/clips')].find((one) =>
    existsSync(one),
  )
  if (!folder) throw new Error('The clips of the stand-ins are missing; build the app again.')
  const all = [1, 2, 3].map((number) => new Uint8Array(readFileSync(join(folder, `clip-${number}.mp4`))))
  return (number) => all[number % all.length]!
}
