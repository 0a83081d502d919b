// What both commands do first on a fresh machine: packages, a compiler for the database driver, a browser, the build.
// Uses Node's own modules only, since nothing else is there yet.
import { spawn, spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

export const root = join(dirname(fileURLToPath(import.meta.url)), '..')
const STAMPS = join(root, 'node_modules/.cache/lantern')
const MIN_NODE = [20, 19]
const quiet = { NUXT_TELEMETRY_DISABLED: '1', NEXT_TELEMETRY_DISABLED: '1', DO_NOT_TRACK: '1' }

/** Ends with one clear line and what to do. */
export function fail(line) {
  for (const child of running) child.kill()
  console.error(`\n✖ ${line}`)
  process.exit(1)
}

/** Commands that run now: those beside one that fails are ended with it. */
const running = new Set()

export const say = (line) => console.log(`\n▸ ${line}`)

export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number)
  if (major < MIN_NODE[0] || (major === MIN_NODE[0] && minor < MIN_NODE[1]))
    fail(`This needs Node.js ${MIN_NODE.join('.')} or later; this is ${process.versions.node}.`)
}

/** Runs a command with its output shown, and ends all where it fails. */
export function run(command, args, { env = {}, what = `${command} ${args.join(' ')}` } = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...quiet, ...env } })
    running.add(child)
    child.on('exit', () => running.delete(child))
    child.on('error', (error) => fail(`${what} could not be started: ${error.message}`))
    child.on('exit', (code, signal) =>
      code === 0 ? resolve() : fail(`${what} failed (${signal ?? `exit code ${code}`}).`),
    )
  })
}

const has = (command) => spawnSync('sh', ['-c', `command -v ${command}`]).status === 0

async function aptInstall(packages, why) {
  if (!has('apt-get')) fail(`${why} Install ${packages.join(', ')} by hand: there is no apt-get here.`)
  if (process.getuid?.() !== 0) fail(`${why} Install them as root: apt-get install ${packages.join(' ')}`)
  say(`Installing ${packages.join(', ')} by apt-get. ${why}`)
  const env = { DEBIAN_FRONTEND: 'noninteractive' }
  await run('apt-get', ['update', '-q'], { env })
  await run('apt-get', ['install', '-y', '-q', '--no-install-recommends', ...packages], { env })
}

export const chromiumPath = () => ['/usr/bin/chromium', '/usr/bin/chromium-browser'].find((path) => existsSync(path))

export async function ensureChromium() {
  if (!chromiumPath()) await aptInstall(['chromium'], 'The browser tests drive Chromium.')
}

const hashOf = (text) => createHash('sha256').update(text).digest('hex')
const isStamped = (name, value) => existsSync(join(STAMPS, name)) && readFileSync(join(STAMPS, name), 'utf8') === value
function stamp(name, value) {
  mkdirSync(STAMPS, { recursive: true })
  writeFileSync(join(STAMPS, name), value)
}

/** Installs the packages exactly as locked, unless these very ones are there. The database driver is compiled by `ensureDriver`. */
export async function ensurePackages() {
  if (existsSync(join(root, 'node_modules/nuxt')) && isStamped('packages', lockHash())) return
  say('Installing the packages')
  await run('npm', ['ci', '--ignore-scripts', '--no-audit', '--no-fund', '--loglevel=error'])
  stamp('packages', lockHash())
}

const lockHash = () => hashOf(readFileSync(join(root, 'package-lock.json')) + process.versions.modules)

/** Builds the database driver for this version of Node, which takes about two minutes where no ready-made one fits. */
export async function ensureDriver() {
  const isBuilt = existsSync(join(root, 'node_modules/better-sqlite3/build/Release/better_sqlite3.node'))
  if (isBuilt && isStamped('driver', lockHash())) return
  const missing = [
    ['make', 'make'],
    ['g++', 'g++'],
    ['python3', 'python3'],
  ]
    .filter(([command]) => !has(command))
    .map(([, name]) => name)
  if (missing.length > 0) await aptInstall(missing, 'The database driver has to be compiled.')
  say('Building the database driver (up to two minutes on a new machine)')
  // The compiler may use every core.
  await run('npm', ['rebuild', 'better-sqlite3', '--loglevel=error'], { env: { JOBS: 'max' } })
  stamp('driver', lockHash())
}

const SOURCES = ['app', 'core', 'disk', 'server', 'stand-ins', 'public', 'nuxt.config.ts', 'package-lock.json']

function newestHash() {
  const parts = []
  const walk = (path) => {
    if (statSync(path).isDirectory()) for (const name of readdirSync(path).sort()) walk(join(path, name))
    else if (!path.endsWith('.test.ts')) parts.push(path.slice(root.length), hashOf(readFileSync(path)))
  }
  for (const source of SOURCES) walk(join(root, source))
  return hashOf(parts.join('\n'))
}

/** Builds the app, unless what is built is of these very sources. */
export async function ensureBuild() {
  const sources = newestHash()
  if (existsSync(join(root, '.output/server/index.mjs')) && isStamped('build', sources)) return
  say('Building the app (about half a minute)')
  rmSync(join(root, '.output'), { recursive: true, force: true })
  await run('npx', ['nuxt', 'build', '--logLevel', 'silent'])
  stamp('build', sources)
}
