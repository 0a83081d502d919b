// npm test: everything that has to hold before a change lands, from a bare checkout on.
import { checkNode, ensureBuild, ensureChromium, ensureDriver, ensurePackages, run, say } from './set-up.mjs'

const begun = Date.now()
const LINT = ['Lint and format', 'npm', ['run', '-s', 'lint']]
const TYPES = ['Types', 'npm', ['run', '-s', 'typecheck']]
const UNUSED = ['Unused code and packages', 'npm', ['run', '-s', 'unused']]
const UNIT = ['Unit tests', 'npm', ['run', '-s', 'unit']]
const HTTP = ['Tests of the built server', 'npm', ['run', '-s', 'http']]
const BROWSER = ['Browser tests', 'npm', ['run', '-s', 'browser']]

const seconds = () => Math.round((Date.now() - begun) / 1000)
const step = async ([words, command, args]) => {
  say(`${words} (after ${seconds()} s)`)
  await run(command, args, { what: words })
}

checkNode()
await ensurePackages()
await step(['Preparing the types', 'npx', ['nuxt', 'prepare', '--logLevel', 'silent']])
// Two rows of work side by side, since most machines that run this have two cores; what needs the network or apt comes first.
await Promise.all([step(LINT).then(() => step(TYPES)), ensureChromium().then(ensureDriver)])
const built = ensureBuild()
await Promise.all([step(UNIT), built.then(() => step(UNUSED)).then(() => step(BROWSER))])
await step(HTTP)
say(`All of it passed in ${seconds()} s`)
