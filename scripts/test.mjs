// npm test: everything that has to hold before a change lands, from a bare checkout on.
import { checkNode, ensureBuild, ensureChromium, ensurePackages, run, say } from './set-up.mjs'

const begun = Date.now()
const STEPS = [
  ['Preparing the types', 'npx', ['nuxt', 'prepare', '--logLevel', 'silent']],
  ['Lint and format', 'npm', ['run', '-s', 'lint']],
  ['Types', 'npm', ['run', '-s', 'typecheck']],
  ['Unused code and packages', 'npm', ['run', '-s', 'unused']],
  ['Unit tests', 'npm', ['run', '-s', 'unit']],
]

checkNode()
await ensurePackages()
for (const [words, command, args] of STEPS) {
  say(`${words} (after ${Math.round((Date.now() - begun) / 1000)} s)`)
  await run(command, args, { what: words })
}
await ensureChromium()
await ensureBuild()
say(`Browser tests (after ${Math.round((Date.now() - begun) / 1000)} s)`)
await run('npm', ['run', '-s', 'browser'], { what: 'Browser tests' })
say(`All of it passed in ${Math.round((Date.now() - begun) / 1000)} s`)
