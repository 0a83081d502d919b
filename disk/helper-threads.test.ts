import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { deepScan } from '../core/scanning/deep'
import type { Question } from '../core/scanning/helpers'
import { bytesSource, type ByteSource } from '../core/sources/source'
import { sampleBytes } from '../core/testing/format-samples'
import { openFile, type OpenFile } from './file-source'
import { helperProgram } from './helper-program'
import { HelperThreads } from './helper-threads'

const folder = mkdtempSync(join(tmpdir(), 'lantern-helpers-'))
const path = join(folder, 'card.img')
let image: OpenFile

beforeAll(() => {
  const names = ['weir.jpg', 'plan.png', 'letter.docx', 'bell.flac', 'barge.mp4'] as const
  const bytes = new Uint8Array(12 * 1024 * 1024)
  for (let at = 0, index = 0; at + 1_000_000 < bytes.length; at += 262_144, index++) {
    const file = sampleBytes(names[index % names.length]!)
    // Every third is torn.
    if (index % 3 === 2) file.fill(0x55, Math.floor(file.length / 2))
    bytes.set(file, at)
  }
  writeFileSync(path, bytes)
  image = openFile(path)
})
afterAll(() => {
  image.close()
  rmSync(folder, { recursive: true })
})

const shapes = [
  {
    shape: {
      index: 0,
      scheme: 'none',
      fileSystem: null,
      offset: 0,
      bytes: 12 << 20,
      label: null,
      verdict: 'unknown',
      says: '',
      lock: null,
    },
    fileSystem: null,
  },
] as const
function found(source: ByteSource, helpers?: HelperThreads) {
  const steps = deepScan(source, shapes, { isWhole: false, formats: null, ...(helpers ? { helpers } : {}) })
  return Array.from(steps, ({ at, items }) => ({ at, items }))
}

describe('threads that follow files beside a scan', () => {
  it('change neither what is found nor in which order', () => {
    const helpers = new HelperThreads(helperProgram, { path, opened: [] }, 2)
    let told = 0
    const answer = helpers.answer.bind(helpers)
    helpers.answer = (question) => {
      const one = answer(question)
      if (one !== undefined) told++
      return one
    }
    try {
      const alone = found(image)
      expect(alone.flatMap(({ items }) => items).length).toBeGreaterThan(30)
      expect(found(image, helpers)).toEqual(alone)
      expect(told).toBeGreaterThan(10)
    } finally {
      helpers.end()
    }
  })

  it('leave the scan to itself where they cannot open the medium, or have ended', () => {
    const question: Question & { asks: 'file' } = {
      asks: 'file',
      place: [0, image.size],
      formats: ['jpeg'],
      unitBytes: 512,
    }
    const lost = new HelperThreads(helperProgram, { path: join(folder, 'none.img'), opened: [] }, 1)
    lost.ask(question)
    expect(lost.answer(question)).toBeUndefined()
    expect(lost.hasRoom).toBe(false)
    lost.ask(question)
    expect(lost.answer(question)).toBeUndefined()
    expect(found(bytesSource(image.read(0, 1 << 20)), lost).length).toBe(1)
  })
})
