import { createHash } from 'node:crypto'
import { cpSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, test } from 'vitest'
import type { ArrivingBatch } from '../../core/bench/batch'
import { openShop, type Technician } from '../support/carry'
import { Client } from '../support/client'
import { LOST_PHOTOS } from '../support/cases'

let tech: Technician
const folder = mkdtempSync(join(tmpdir(), 'lantern-by-hand-'))
beforeAll(async () => void (tech = await openShop()))
afterAll(async () => {
  rmSync(folder, { recursive: true })
  await tech.server.remove()
})

const SAMPLES = 'core/testing/format-samples'
const sample = (name: string) => readFileSync(join(SAMPLES, name))
const at = (code: string, rest = '') => `/api/cases/${code}/bench/batches${rest}`

interface Chosen {
  readonly path: string[]
  readonly bytes: Buffer
  readonly changed?: number
}
const announced = (files: readonly Chosen[]) =>
  files.map(({ path, bytes, changed = 0 }) => ({ path, bytes: bytes.length, changed }))

async function put(code: string, batch: string, file: number, from: number, bytes: Uint8Array) {
  return tech.request.fetch(at(code, `/${batch}/files/${file}?from=${from}`), 'PUT', { data: bytes })
}

test('files that were fetched by hand become a link of the run: found, matched, on the shelf, counted', async () => {
  const code = await tech.log(LOST_PHOTOS)
  const run = await tech.begin(code, 'cloud-library-bin:c1')
  const files: Chosen[] = [
    // Its date of change is that of the download, after the loss, and so says nothing of when it was taken.
    { path: ['fetched', '..', 'weir.jpg'], bytes: sample('weir.jpg'), changed: Date.parse('2026-11-19T10:00:00Z') },
    { path: ['fetched', 'notes.rtf'], bytes: sample('notes.rtf') },
    { path: ['fetched', 'empty.txt'], bytes: Buffer.alloc(0) },
  ]
  const start = { run, files: announced(files) }
  const begun = await tech.ask<ArrivingBatch>('POST', at(code), start)
  expect(begun.title).toBe('fetched')

  // Half of a file, then a wrong offset, then the rest after the same files were chosen again.
  await put(code, begun.id, 0, 0, files[0]!.bytes.subarray(0, 1000))
  expect((await put(code, begun.id, 0, 0, files[0]!.bytes)).status).toBe(409)
  expect((await tech.refused('POST', at(code, `/${begun.id}`))).message).toContain('Not all of the files')
  const again = await tech.ask<ArrivingBatch>('POST', at(code), start)
  expect(again).toMatchObject({ id: begun.id, have: [1000, 0, 0] })
  await put(code, begun.id, 0, 1000, files[0]!.bytes.subarray(1000))
  expect((await put(code, begun.id, 1, 0, Buffer.concat([files[1]!.bytes, files[1]!.bytes]))).status).toBe(400)
  await put(code, begun.id, 1, 0, files[1]!.bytes)
  const { link } = await tech.ask<{ link: string }>('POST', at(code, `/${begun.id}`))
  expect((await tech.refused('POST', at(code), start)).message).toContain('brought already')
  expect(readdirSync(join(tech.server.data, 'by-hand')).sort()).toEqual([code])

  const listing = await tech.list(code, link, '*')
  const { finds } = await tech.finds(code, listing)
  expect(finds.map(({ name, wanted }) => [name, wanted]).sort()).toEqual([
    ['empty.txt', null],
    ['notes.rtf', null],
    ['weir.jpg', 'w1'],
  ])
  const shelf = await tech.toShelf(code, listing, { wanted: 'any' })
  expect(shelf.map(({ sha256 }) => sha256)).toEqual([createHash('sha256').update(files[0]!.bytes).digest('hex')])
  const stored = await tech.ask<{ case: { runs: { id: string; shelf: unknown[] }[] } }>('GET', `/api/cases/${code}`)
  expect(stored.case.runs.find(({ id }) => id === run)?.shelf).toMatchObject([{ wanted: 'w1', found: 1, verified: 1 }])

  // Taken off the case again, its files go; the shelf stays.
  await tech.request.fetch(`/api/cases/${code}/bench/links/${link}`, 'DELETE')
  expect(readdirSync(join(tech.server.data, 'by-hand', code))).toEqual([])
  expect(tech.shelf(code)).toHaveLength(1)
})

test('a folder of this machine is read where it is, only within what the owner allowed, and seen anew each time', async () => {
  const code = await tech.log(LOST_PHOTOS)
  const allowed = join(folder, 'allowed')
  mkdirSync(join(allowed, 'card'), { recursive: true })
  cpSync(join(SAMPLES, 'weir.jpg'), join(allowed, 'card', 'weir.jpg'))
  symlinkSync('/etc', join(allowed, 'out'))
  const name = (path: string) => ({ run: null, path })
  const nothing = 'is in no folder that the owner has allowed'
  for (const path of [allowed, '/etc', join(allowed, 'out'), join(allowed, '..'), '/not/there', tech.server.data])
    expect((await tech.refused('POST', at(code, '/folder'), name(path))).message).toContain(nothing)
  const owner = await new Client(tech.server.address).signIn('ottilie')
  await owner.fetch('/api/bench/folders', 'PUT', { data: { folders: [allowed] } })
  for (const path of [join(allowed, 'out'), '/etc', tech.server.data])
    expect((await tech.refused('POST', at(code, '/folder'), name(path))).message).toContain(nothing)
  const { link } = await tech.ask<{ link: string }>('POST', at(code, '/folder'), name(join(allowed, 'card')))
  expect((await tech.finds(code, await tech.list(code, link, '*'))).finds).toHaveLength(1)
  writeFileSync(join(allowed, 'card', 'a.jpg'), sample('weir.jpg'))
  const listing = await tech.list(code, link, '*')
  expect((await tech.finds(code, listing)).finds).toHaveLength(2)
  expect(await tech.toShelf(code, listing, {})).toHaveLength(2)

  // No other case can have it, and what is no longer there is said.
  const other = await tech.log(LOST_PHOTOS)
  expect((await tech.refused('POST', `/api/cases/${other}/bench/links/${link}/list`, { keep: '*' })).message).toContain(
    'Attach it to this case first',
  )
  rmSync(join(allowed, 'card'), { recursive: true })
  expect((await tech.bench(code)).faults).toEqual([{ link, says: 'The folder is no longer where it was.' }])
  await tech.request.fetch(`/api/cases/${code}/bench/links/${link}`, 'DELETE')
  expect((await tech.bench(code)).faults).toEqual([])
})

test('an archive that was fetched is opened; a batch for a run that is over, or without consent, is refused', async () => {
  const code = await tech.log({ ...LOST_PHOTOS, 'consent.lookThrough.answer': 'refused' })
  const only = { path: ['letter.zip'], bytes: sample('letter.docx') }
  const start = { run: null as string | null, files: announced([only]) }
  expect((await tech.refused('POST', at(code), start)).message).toContain('does not want their data looked through')
  await tech.set(code, { 'consent.lookThrough.answer': 'given' })
  expect((await tech.refused('POST', at(code), { ...start, run: 'r7' })).message).toContain('no longer open')
  const { id } = await tech.ask<ArrivingBatch>('POST', at(code), start)
  await put(code, id, 0, 0, only.bytes)
  // Two pages finish it at once: it is one link.
  const answers = await Promise.all([1, 2, 3, 4].map(() => tech.request.fetch(at(code, `/${id}`), 'POST')))
  expect(answers.filter(({ status }) => status === 200)).toHaveLength(1)
  const { link } = (await answers.find(({ status }) => status === 200)!.json()) as { link: string }
  const { finds } = await tech.finds(code, await tech.list(code, link, '*'))
  expect(finds.map(({ name }) => name)).toContain('document.xml')
})
