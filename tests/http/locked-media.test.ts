import { createHash } from 'node:crypto'
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, test } from 'vitest'
import type { BenchAnswer } from '../../core/bench/bench'
import type { MediumEntry, PassShape } from '../../core/bench/medium'
import type { LinkState } from '../../core/bench/state'
import { lockedImage, PASSPHRASE, PICTURE_SHA256 } from '../../core/testing/locked-images'
import { imageBytes } from '../../core/testing/media-images'
import { openShop, type Technician } from '../support/carry'

/** Encrypted volumes and split images at the server's routes. */
const HERON = 'SL-0017'
const PART = 'x7'
const WORN = 'medium-worn-card'

let tech: Technician
let folder: string
beforeAll(async () => {
  tech = await openShop({ LANTERN_JOBS: '1' })
  folder = (await register()).folder
})
afterAll(() => tech.server.remove())

const register = () => tech.ask<{ folder: string; media: MediumEntry[] }>('GET', '/api/bench/media')
const idOf = async (title: string) => (await register()).media.find((one) => one.title === title)!.id
async function attached(title: string): Promise<string> {
  const id = await idOf(title)
  await tech.attach(HERON, PART, id)
  return id
}
const stateOf = async (link: string): Promise<LinkState> =>
  (await tech.bench(HERON)).links.find(({ id }) => id === link)!
const shapeOf = async (link: string) => (await tech.bench(HERON)).media.find((one) => one.link === link)!
const ofPass =
  (id: number) =>
  ({ passes }: BenchAnswer) =>
    passes.find((one) => one.id === id)!

async function scan(link: string, options: object): Promise<{ pass: PassShape; listing: number }> {
  const { pass, listing } = await tech.ask<{ pass: number; listing: number }>(
    'POST',
    `/api/cases/${HERON}/bench/links/${link}/pass`,
    options,
  )
  const isOver = (bench: BenchAnswer) => ['done', 'failed'].includes(ofPass(pass)(bench).state)
  return { pass: ofPass(pass)(await tech.until(HERON, isOver)), listing }
}

test('an encrypted volume is opened with its passphrase, read, copied from, and closed', async () => {
  const image = lockedImage('version-1')
  writeFileSync(join(folder, 'vault.img'), image)
  const link = await attached('vault.img')
  expect(await shapeOf(link)).toMatchObject({ volumes: [{ verdict: 'encrypted', lock: 'closed' }] })
  expect((await stateOf(link)).needs.map(({ answer }) => answer)).toEqual(['password'])
  const before = await scan(link, { pass: 'both' })
  expect(before.pass).toMatchObject({ state: 'done', progress: { found: 0 } })

  const answer = `/api/cases/${HERON}/bench/links/${link}/answer`
  const wrong = await tech.refused('POST', answer, { answer: 'password', value: 'lock keeper 8' })
  expect(wrong.message).toContain('opens none of its key slots')
  expect((await shapeOf(link)).volumes[0]!.lock).toBe('closed')
  await tech.answer(HERON, link, 'password', PASSPHRASE)
  expect(await shapeOf(link)).toMatchObject({ volumes: [{ fileSystem: 'FAT12', label: 'LOCKED', lock: 'opened' }] })
  expect((await stateOf(link)).needs.map(({ answer: kind }) => kind)).toEqual(['sign-out'])

  const { pass, listing } = await scan(link, { pass: 'both', takesChecksum: true })
  expect(pass.sha256).toBe(createHash('sha256').update(image).digest('hex'))
  const { finds } = await tech.finds(HERON, listing)
  const lost = finds.find(({ presence }) => presence === 'deleted')!
  expect(lost).toMatchObject({ whole: 'intact' })
  const opened = `/api/cases/${HERON}/bench/listings/${listing}/finds/${lost.find}`
  expect((await tech.request.get(opened)).ok).toBe(true)
  const shelf = await tech.toShelf(HERON, listing, { presence: 'deleted' })
  expect(shelf.map(({ sha256 }) => sha256)).toContain(PICTURE_SHA256)

  await tech.answer(HERON, link, 'sign-out')
  const closed = await tech.request.get(opened)
  expect(((await closed.json()) as { message: string }).message).toContain('closed again')
  await tech.answer(HERON, link, 'password', PASSPHRASE)
  expect((await tech.request.get(opened)).ok).toBe(true)

  // A scan of what was opened does not go on over what is closed: here it waits for the scan of a slow card.
  const start = (of: string, options: object) =>
    tech.ask<{ pass: number }>('POST', `/api/cases/${HERON}/bench/links/${of}/pass`, options)
  const wish = (id: number, what: string) => tech.ask('PUT', `/api/cases/${HERON}/bench/passes/${id}`, { wish: what })
  const slow = await start(WORN, { pass: 'both', isWhole: true })
  const waiting = await start(link, { pass: 'quick' })
  await tech.answer(HERON, link, 'sign-out')
  await wish(slow.pass, 'discard')
  const failed = await tech.until(HERON, (bench) => ofPass(waiting.pass)(bench).state === 'failed')
  expect(ofPass(waiting.pass)(failed).says).toContain('closed again')
  await tech.answer(HERON, link, 'password', PASSPHRASE)
  await wish(waiting.pass, 'resume')
  await tech.until(HERON, (bench) => ofPass(waiting.pass)(bench).state === 'done')
})

test('keys are held in memory alone: neither the data folder nor a restart has them', async () => {
  const link = await idOf('vault.img')
  await tech.answer(HERON, link, 'password', PASSPHRASE)
  const history = await (await tech.request.get(`/api/cases/${HERON}/history`)).text()
  expect(history).toContain('answered “vault.img”: password')
  expect(history).not.toContain(PASSPHRASE)
  // Nor has it a medium that no case at the bench reads any more.
  await tech.attach(HERON, PART, await idOf('Stick of the weavers’ yard'))
  await register()
  await tech.attach(HERON, PART, link)
  expect((await shapeOf(link)).volumes[0]!.lock).toBe('closed')
  await tech.answer(HERON, link, 'password', PASSPHRASE)
  await tech.server.stop()
  await tech.server.start()
  expect((await shapeOf(link)).volumes[0]!.lock).toBe('closed')
})

test('a volume that no passphrase can open says why', async () => {
  const bytes = lockedImage('version-2')
  bytes.fill(0xff, 4200, 4300)
  bytes.fill(0xff, 0x4000 + 4200, 0x4000 + 4300)
  writeFileSync(join(folder, 'hurt.img'), bytes)
  const link = await attached('hurt.img')
  const answer = `/api/cases/${HERON}/bench/links/${link}/answer`
  const refused = await tech.refused('POST', answer, { answer: 'password', value: PASSPHRASE })
  expect(refused.message).toContain('neither of its copies fits its checksum')
})

test('an image in parts is one medium, and a missing part is said', async () => {
  const image = imageBytes('floppy')
  const third = Math.ceil(image.length / 3 / 512) * 512
  for (const part of [0, 1, 2])
    writeFileSync(join(folder, `floppy.00${part + 1}`), image.subarray(part * third, (part + 1) * third))
  const entry = (await register()).media.filter(({ title }) => title.startsWith('floppy'))
  expect(entry).toMatchObject([{ title: 'floppy.001, in 3 parts', bytes: image.length }])
  const link = await attached('floppy.001, in 3 parts')
  const { pass } = await scan(link, { pass: 'quick', takesChecksum: true })
  expect(pass.sha256).toBe(createHash('sha256').update(image).digest('hex'))
  expect(pass.progress!.found).toBeGreaterThan(1)

  writeFileSync(join(folder, 'alone.001'), image.subarray(0, third))
  expect(await shapeOf(await attached('alone.001'))).toMatchObject({
    volumes: [{ verdict: 'cut' }],
    warnings: expect.arrayContaining([{ where: 'alone.001', what: expect.stringContaining('part 2 was not found') }]),
  })
})
