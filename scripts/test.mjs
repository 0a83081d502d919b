// npm test: everything that has to hold before a change lands, from a bare checkout on.
import { checkNode, ensureBuild, ensureChromium, ensurePackages, run, say } from './set-up.mjs'

const begun = Date.now()
/** Two at a time, since most machines that run this have two cores. */
const LOOKED_AT = [
  [
    ['Lint and format', 'npm', ['run', '-s', 'lint']],
    ['Unused code and packages', 'npm', ['run', '-s', 'unused']],
  ],
  [['Types', 'npm', ['run', '-s', 'typecheck']]],
]

const step = async ([words, command, args]) => {
  say(`${words} (after ${Math.round((Date.now() - begun) / 1000)} s)`)
  await run(command, args, { what: words })
}

checkNode()
await ensurePackages()
await step(['Preparing the types', 'npx', ['nuxt', 'prepare', '--logLevel', 'silent']])
await Promise.all(
  LOOKED_AT.map(async (steps) => {
    for (const one of steps) await step(one)
  }),
)
await step(['Unit tests', 'npm', ['run', '-s', 'unit']])
await ensureChromium()
await ensureBuild()
await step(['Browser tests', 'npm', ['run', '-s', 'browser']])
say(`All of it passed in ${Math.round((Date.now() - begun) / 1000)} s`)
