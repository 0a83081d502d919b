import { spawnSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { expect, test } from 'vitest'
import type { Preview } from '../../core/bench/preview'
import { NO_MOUNT, smallDisk, type SmallDisk } from '../../core/testing/small-disk'
import { opened, type Technician } from '../support/carry'
import { bombWithoutDirectory, farCells, hugePicture, manyParagraphs, oneLetter } from '../support/hostile'

/** What a shop stakes other people's only copies on: full disks, ends without warning, files that would hurt. */
const SURVEY = 'SL-0012'
const PHONE = 'korvane-7'

/** The bin of a phone that holds 150 photos, listed. */
async function binOf(tech: Technician): Promise<number> {
  await tech.answer(SURVEY, PHONE, 'passcode', '190677')
  const { links } = await tech.bench(SURVEY)
  const keep = links.find(({ id }) => id === PHONE)!.keeps.find(({ kind, count }) => kind === 'bin' && count > 100)!
  return tech.list(SURVEY, PHONE, keep.id)
}

test('a shelf that fills up during a copy stops with the reason, keeps complete files, and resumes', async ({
  skip,
}) => {
  let disk: SmallDisk | null = null
  skip((disk = smallDisk(260 << 20)) === null, NO_MOUNT)
  try {
    await opened({ LANTERN_DATA: disk!.folder }, async (tech) => {
      const listing = await binOf(tech)
      await tech.ask('POST', `/api/stand-ins/${PHONE}/faults`, { slow: 200_000 })
      await tech.ask('POST', `/api/cases/${SURVEY}/bench/listings/${listing}/select`, { filter: {}, isSelected: true })
      await tech.ask('POST', `/api/cases/${SURVEY}/bench/shelf/copy`, { listing })
      await tech.until(SURVEY, ({ shelf }) => shelf.verified > 2)
      // Something else takes all the room there was.
      const filler = join(disk!.folder, 'filler')
      spawnSync('dd', ['if=/dev/zero', `of=${filler}`, 'bs=64k'])
      const stopped = await tech.until(SURVEY, ({ shelf }) => shelf.job?.state !== 'running')
      expect(stopped.shelf.job).toMatchObject({ state: 'stopped', says: expect.stringContaining('full') })
      expect(stopped.shelf.waiting).toBeGreaterThan(0)
      const refused = await tech.refused('POST', `/api/cases/${SURVEY}/bench/shelf/resume`, {})
      expect(refused.message).toContain('Make room')
      rmSync(filler)
      await tech.ask('POST', `/api/stand-ins/${PHONE}/faults`, { slow: null })
      await tech.ask('POST', `/api/cases/${SURVEY}/bench/shelf/resume`)
      const done = await tech.until(SURVEY, ({ shelf }) => shelf.job?.state !== 'running')
      expect(done.shelf).toMatchObject({ waiting: 0, failed: 0, job: { state: 'done' } })
      // Each file on the shelf is checked against its checksum and the size in the list.
      const items = tech.shelf(SURVEY)
      expect(items).toHaveLength(done.shelf.verified)
      for (const item of items) expect(item.bytes.length).toBeGreaterThan(0)
    })
  } finally {
    disk?.remove()
  }
})

test('a kill while the shelf is copied to leaves nothing half done', async () => {
  await opened({}, async (tech, server) => {
    const listing = await binOf(tech)
    await tech.ask('POST', `/api/cases/${SURVEY}/bench/listings/${listing}/select`, { filter: {}, isSelected: true })
    await tech.ask('POST', `/api/cases/${SURVEY}/bench/shelf/copy`, { listing })
    for (let kill = 0; kill < 6; kill++) {
      await tech.until(SURVEY, ({ shelf }) => shelf.verified > kill * 2 || shelf.job?.state !== 'running')
      const before = (await tech.bench(SURVEY)).shelf.verified
      await server.stop('SIGKILL')
      await server.start()
      const { shelf } = await tech.bench(SURVEY)
      // What was acknowledged is still there; nothing is between two states, and nothing counts as running.
      expect(shelf.verified).toBeGreaterThanOrEqual(before)
      expect(shelf).toMatchObject({ copied: 0, failed: 0 })
      if (shelf.waiting === 0) break
      expect(shelf.job!.state).toBe('stopped')
      await tech.ask('POST', `/api/cases/${SURVEY}/bench/shelf/resume`)
    }
    const done = await tech.until(SURVEY, ({ shelf }) => shelf.waiting === 0 && shelf.job?.state !== 'running')
    expect(tech.shelf(SURVEY)).toHaveLength(done.shelf.verified)
  })
})

test('a second server keeps out of the data folder, and a stop folds the log in', async () => {
  await opened({}, async (_, server) => {
    const entry = resolve('.output/server/index.mjs')
    const second = spawnSync(process.execPath, [entry], {
      env: { PATH: process.env.PATH, LANTERN_DATA: server.data, LANTERN_PORT: '0', NODE_ENV: 'production' },
      timeout: 30_000,
    })
    expect(second.status).toBe(1)
    expect(second.stderr.toString().trim()).toMatch(/^✖ Another server already uses .*$/)
    for (const name of ['.', 'lantern.sqlite', 'session-secret', 'shelf'].filter((one) =>
      readdirSync(server.data).concat('.').includes(one),
    ))
      expect(statSync(join(server.data, name)).mode & 0o077, name).toBe(0)
    await server.stop('SIGTERM')
    expect(readdirSync(server.data).filter((name) => /-(wal|shm)$/.test(name))).toEqual([])
  })
})

test('hostile files are not drawn, and other requests are answered while they are read', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'lantern-hostile-'))
  const attic = join(folder, 'attic')
  mkdirSync(attic)
  try {
    await farCells(join(attic, 'far.xlsx'))
    await manyParagraphs(join(attic, 'many.docx'), 600_000)
    await oneLetter(join(attic, 'letter.docx'), 200)
    hugePicture(join(attic, 'huge.png'), 40_000)
    writeFileSync(join(attic, 'tolls.csv'), 'name;paid\n"Lock; upper";"3 ""dear"""\n')
    bombWithoutDirectory(join(folder, 'bomb.zip'), 40, 128)
    await opened({}, async (tech) => {
      await tech.ask('PUT', '/api/bench/folders', { folders: [folder] })
      let id: string | undefined
      await expect
        .poll(async () => {
          const { links } = await tech.ask<{ links: { id: string; title: string }[] }>('GET', '/api/bench')
          id = links.find(({ title }) => title === 'Archive attic')?.id
          // The bomb is there too: it was looked at, and not unpacked.
          return id !== undefined && links.some(({ title }) => title === 'Archive bomb.zip')
        })
        .toBe(true)
      await tech.attach(SURVEY, 'x1', id!)
      const listing = await tech.list(SURVEY, id!, 'files')
      const { finds } = await tech.finds(SURVEY, listing)
      const previewed = (name: string) =>
        tech
          .ask<{ preview: Preview }>(
            'GET',
            `/api/cases/${SURVEY}/bench/listings/${listing}/finds/${finds.find((one) => one.name === name)!.find}`,
          )
          .then(({ preview }) => preview)
      const hostile = ['far.xlsx', 'many.docx', 'letter.docx', 'huge.png'].map(previewed)
      // Whoever asks for something else is answered before any of these is.
      let isAnswered = 0
      const all = Promise.all(hostile)
      while (isAnswered < 5) {
        expect((await tech.request.get('/api/cases')).ok).toBe(true)
        isAnswered++
      }
      const [far, many, letter, huge] = await all
      for (const one of [far, huge]) expect(one).toMatchObject({ as: 'none', why: expect.stringContaining('shelf') })
      // A long text may be shown cut, or not at all; never more of it than a page holds.
      for (const one of [many!, letter!])
        expect(one.as === 'none' || (one.as === 'text' && one.text.length <= 200_000)).toBe(true)
      expect(await previewed('tolls.csv')).toMatchObject({
        as: 'table',
        rows: [
          ['name', 'paid'],
          ['Lock; upper', '3 "dear"'],
        ],
      })
    })
  } finally {
    rmSync(folder, { recursive: true })
  }
})
