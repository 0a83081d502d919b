// npm test: everything that has to hold before a change lands, from a bare checkout on.
import { checkNode, ensureBuild, ensureChromium, ensurePackages, run, say } from './set-up.mjs'

const begun = Date.now()
const LINT = ['Lint and format', 'npm', ['run', '-s', 'lint']]
const TYPES = ['Types', 'npm', ['run', '-s', 'typecheck']]
const UNUSED = ['Unused code and packages', 'npm', ['run', '-s', 'unused']]
const UNIT = ['Unit tests', 'npm', ['run', '-s', 'unit']]

const seconds = () => Math.round((Date.now() - begun) / 1000)
const step = async ([words, command, args]) => {
  say(`${words} (after ${seconds()} s)`)
  await run(command, args, { what: words })
}

checkNode()
await ensurePackages()
await step(['Preparing the types', 'npx', ['nuxt', 'prepare', '--logLevel', 'silent']])
// Two at a time, since most machines that run this have two cores; the browser is installed in parallel.
await Promise.all([step(LINT), step(TYPES), ensureChromium()])
await Promise.all([step(UNIT), ensureBuild().then(() => step(UNUSED))])
await step(['Tests of the built server', 'npm', ['run', '-s', 'http']])
await step(['Browser tests', 'npm', ['run', '-s', 'browser']])
say(`All of it passed in ${seconds()} s`)
