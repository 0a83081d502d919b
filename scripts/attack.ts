// npm run attack [-- images|kills|disk|files|people|load]: the long attacks, with their figures. Needs the built app for all but images.
import { spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Preview } from '../core/bench/preview'
import { cut, withoutCluster, withoutStructure, wronglyIntact } from '../core/testing/image-attacks'
import { IMAGES } from '../core/testing/media-images'
import { NO_MOUNT, smallDisk } from '../core/testing/small-disk'
import { chances } from '../stand-ins/content/chance'
import { opened, type Technician } from '../tests/support/carry'
import {
  bombWithoutDirectory,
  crowdedFolder,
  farCells,
  hugePicture,
  manyParagraphs,
  oneLetter,
} from '../tests/support/hostile'
import type { Server } from '../tests/support/server'
import { load, people } from './attack-people'

const SURVEY = 'SL-0012'
const PHONE = 'korvane-7'
let failures = 0
const say = (words: string) => console.log(words)
function expect(isTrue: boolean, words: string): void {
  if (isTrue) return
  failures++
  console.log(`  ✖ ${words}`)
}

/** The images cut, zeroed in their structures and in their files, in the quick pass and, fewer, in both passes. */
function images(seed: number): void {
  for (const [pass, each] of [
    ['quick', 300],
    ['both', 25],
  ] as const)
    for (const name of IMAGES) {
      let attacks = 0
      for (const make of [cut, withoutStructure, withoutCluster])
        for (const { says, bytes } of make(name, each, seed)) {
          attacks++
          for (const { path, extents } of wronglyIntact(name, bytes, { pass }))
            expect(false, `${name}, ${says}, ${pass}: ${path} at ${String(extents[0])} is called intact`)
        }
      say(`${name}, ${pass} pass: ${attacks} images cut or zeroed`)
    }
}

async function binOf(tech: Technician): Promise<number> {
  await tech.answer(SURVEY, PHONE, 'passcode', '190677')
  const { links } = await tech.bench(SURVEY)
  const keep = links.find(({ id }) => id === PHONE)!.keeps.find(({ kind, count }) => kind === 'bin' && count > 100)!
  return tech.list(SURVEY, PHONE, keep.id)
}

async function started(server: Server): Promise<number> {
  const began = performance.now()
  await server.start()
  return performance.now() - began
}

/** The server is killed while a shelf is copied to, and while cases are written to and passes and runs are begun. */
async function kills(seed: number): Promise<void> {
  const chance = chances(seed)
  const wait = (most: number) => new Promise((done) => setTimeout(done, chance() * most))
  let slowest = 0
  await opened({}, async (tech, server) => {
    const listing = await binOf(tech)
    await tech.ask('POST', `/api/stand-ins/${PHONE}/faults`, { slow: 150_000 })
    await tech.ask('POST', `/api/cases/${SURVEY}/bench/listings/${listing}/select`, { filter: {}, isSelected: true })
    await tech.ask('POST', `/api/cases/${SURVEY}/bench/shelf/copy`, { listing })
    let verified = 0
    for (let kill = 0; kill < 100; kill++) {
      await wait(300)
      verified = Math.max(verified, (await tech.bench(SURVEY)).shelf.verified)
      await server.stop('SIGKILL')
      slowest = Math.max(slowest, await started(server))
      const { shelf } = await tech.bench(SURVEY)
      expect(shelf.verified >= verified, `kill ${kill}: ${verified} were on the shelf, ${shelf.verified} are`)
      expect(shelf.copied === 0 && shelf.job?.state !== 'running', `kill ${kill}: something is stuck`)
      if (shelf.waiting > 0) await tech.ask('POST', `/api/cases/${SURVEY}/bench/shelf/resume`)
    }
    await tech.ask('POST', `/api/stand-ins/${PHONE}/faults`, { slow: null })
    const done = await tech.until(SURVEY, ({ shelf }) => shelf.waiting === 0 && shelf.job?.state !== 'running')
    // Reads every file and holds it against its checksum.
    expect(tech.shelf(SURVEY).length === done.shelf.verified, 'the manifest does not list all that is on the shelf')
    say(`100 kills while copying: ${done.shelf.verified} items verified, slowest restart ${Math.round(slowest)} ms`)
  })
  slowest = 0
  await opened({}, async (tech, server) => {
    const code = await tech.log({ 'client.name': 'Maud Oxley', 'devices.d1': { kind: 'card', condition: 'working' } })
    await tech.attach(code, 'd1', 'medium-worn-card')
    const before = (await tech.ask<{ total: number }>('GET', '/api/cases')).total
    let acknowledged = 0
    for (let kill = 0; kill < 60; kill++) {
      let isOver = false
      const writes = Array.from({ length: 3 }, async (_, writer) => {
        for (let at = 0; !isOver; at++) {
          const made = await tech
            .log({ 'client.name': `Client ${kill}-${writer}-${at}` })
            .then(() => 1)
            .catch(() => 0)
          acknowledged += made
        }
      })
      void tech
        .ask('POST', `/api/cases/${code}/bench/links/medium-worn-card/pass`, { pass: 'quick', types: [] })
        .catch(() => {})
      void tech.begin(code, 'medium-deep-scan:d1').catch(() => {})
      await wait(700)
      await server.stop('SIGKILL')
      isOver = true
      await Promise.all(writes)
      slowest = Math.max(slowest, await started(server))
    }
    const told = await tech.ask<{ total: number }>('GET', '/api/cases')
    expect(told.total - before >= acknowledged, `${acknowledged} were acknowledged, ${told.total - before} are there`)
    expect(slowest < 5000, `a restart took ${Math.round(slowest)} ms`)
    await tech.until(code, ({ passes }) => passes.every(({ state }) => state !== 'running' && state !== 'queued'))
    say(`60 kills under mixed writes: ${acknowledged} cases acknowledged, slowest restart ${Math.round(slowest)} ms`)
  })
}

/** Full disks of several sizes while a shelf is copied to. */
async function disk(): Promise<void> {
  for (const megabytes of [200, 240, 280]) {
    const small = smallDisk(megabytes << 20)
    if (!small) return say(`full disks: ${NO_MOUNT}`)
    try {
      await opened({ LANTERN_DATA: small.folder }, async (tech) => {
        const listing = await binOf(tech)
        await tech.ask('POST', `/api/stand-ins/${PHONE}/faults`, { slow: 200_000 })
        await tech.ask('POST', `/api/cases/${SURVEY}/bench/listings/${listing}/select`, {
          filter: {},
          isSelected: true,
        })
        await tech.ask('POST', `/api/cases/${SURVEY}/bench/shelf/copy`, { listing })
        await tech.until(SURVEY, ({ shelf }) => shelf.verified > 2)
        const filler = join(small.folder, 'filler')
        spawnSync('dd', ['if=/dev/zero', `of=${filler}`, 'bs=64k'])
        const { shelf } = await tech.until(SURVEY, (bench) => bench.shelf.job?.state !== 'running')
        expect(shelf.job!.state === 'stopped', `${megabytes} MB: the job is ${shelf.job!.state}`)
        rmSync(filler)
        await tech.ask('POST', `/api/stand-ins/${PHONE}/faults`, { slow: null })
        await tech.ask('POST', `/api/cases/${SURVEY}/bench/shelf/resume`)
        const done = await tech.until(SURVEY, (bench) => bench.shelf.job?.state !== 'running')
        expect(done.shelf.waiting === 0 && done.shelf.failed === 0, `${megabytes} MB: not all was copied`)
        const empty = tech.shelf(SURVEY).filter(({ bytes }) => bytes.length === 0).length
        expect(empty === 0, `${megabytes} MB: ${empty} files are empty`)
        say(`a disk of ${megabytes} MB, full: ${shelf.verified} items verified before, ${done.shelf.verified} after`)
      })
    } finally {
      small.remove()
    }
  }
}

/** Hostile files and archives, with how long each blocked the server's thread. */
async function files(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'lantern-attack-'))
  const stalls = join(folder, 'stalls.json')
  const [attic, named] = [join(folder, 'named', 'attic'), join(folder, 'named')]
  mkdirSync(attic, { recursive: true })
  try {
    await farCells(join(attic, 'far.xlsx'))
    await manyParagraphs(join(attic, 'paragraphs.docx'), 600_000)
    await oneLetter(join(attic, 'letter.docx'), 500)
    hugePicture(join(attic, 'huge.png'), 60_000)
    bombWithoutDirectory(join(named, 'bomb.zip'), 80, 128)
    crowdedFolder(join(named, 'crowd'), 1_000_000)
    await opened({ LANTERN_STALLS: stalls }, async (tech) => {
      const timed = async <T>(words: string, work: () => Promise<T>): Promise<T> => {
        const began = performance.now()
        const result = await work()
        say(`  ${words}: ${Math.round(performance.now() - began)} ms`)
        return result
      }
      // The thread is watched only after start-up and the stand-ins' first answers.
      await tech.bench(SURVEY)
      await new Promise((done) => setTimeout(done, 5500))
      await tech.ask('PUT', '/api/bench/folders', { folders: [named] })
      type Overview = { links: { id: string; title: string }[] }
      for (const listing of [1, 2, 3]) await timed(`listing ${listing}`, () => tech.ask<Overview>('GET', '/api/bench'))
      let id = ''
      for (let tries = 0; id === '' && tries < 60; tries++) {
        const { links } = await tech.ask<Overview>('GET', '/api/bench')
        id = links.find(({ title }) => title === 'Archive attic')?.id ?? ''
        if (id === '') await new Promise((done) => setTimeout(done, 1000))
      }
      await tech.attach(SURVEY, 'x1', id)
      const listing = await tech.list(SURVEY, id, 'files')
      for (const { name, find } of (await tech.finds(SURVEY, listing)).finds) {
        const path = `/api/cases/${SURVEY}/bench/listings/${listing}/finds/${find}`
        const { preview } = await timed(name, () => tech.ask<{ preview: Preview }>('GET', path))
        say(`    ${preview.as === 'none' ? preview.why : preview.as}`)
      }
      await new Promise((done) => setTimeout(done, 1200))
      const { longestMs, p99Ms } = JSON.parse(readFileSync(stalls, 'utf8')) as { longestMs: number; p99Ms: number }
      say(`longest stall of the server's thread: ${Math.round(longestMs)} ms (99 of 100 under ${Math.round(p99Ms)} ms)`)
    })
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

const [part = 'all', seed = '1'] = process.argv.slice(2)
const parts: Record<string, () => Promise<void> | void> = {
  images: () => images(Number(seed)),
  kills: () => kills(Number(seed)),
  disk,
  files,
  people: () => people(say, expect),
  load: () => load(say, expect),
}
if (part !== 'all' && !(part in parts)) throw new Error(`There is no ${part}; choose ${Object.keys(parts).join(', ')}.`)
if (part !== 'images' && !existsSync('.output/server/index.mjs')) throw new Error('Build the app first: npm run build')
for (const [name, work] of Object.entries(parts))
  if (part === 'all' || part === name) {
    say(`— ${name}`)
    await work()
  }
say(failures === 0 ? 'Nothing went wrong.' : `${failures} failures`)
process.exitCode = failures === 0 ? 0 : 1
