import { appendFileSync, mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, expect, it } from 'vitest'
import { addToLedger, readLedger, WIPE_LEDGER } from './wipe-ledger'

let folder: string
beforeEach(() => void (folder = mkdtempSync(join(tmpdir(), 'lantern-ledger-'))))
afterEach(() => rmSync(folder, { recursive: true }))

const line = (code: string) => ({
  identity: '7d1f0c1e-27ac-4c8f-9a62-0f0d9d3b9d11',
  code,
  part: 'data' as const,
  at: '2026-11-24T10:42:00.000Z',
})

it('the ledger of wipes keeps every line, also behind one that a crash has cut and bytes that are none', () => {
  expect(readLedger(folder)).toEqual([])
  addToLedger(folder, line('RL-0001'))
  appendFileSync(join(folder, WIPE_LEDGER), '{"identity":"7d1f0c1e-27ac')
  addToLedger(folder, line('RL-0002'))
  appendFileSync(join(folder, WIPE_LEDGER), Buffer.from([0xff, 0x00, 0x0a]))
  addToLedger(folder, line('RL-0003'))
  expect(readLedger(folder).map(({ code }) => code)).toEqual(['RL-0001', 'RL-0002', 'RL-0003'])
  expect(statSync(join(folder, WIPE_LEDGER)).mode & 0o077).toBe(0)
  writeFileSync(join(folder, WIPE_LEDGER), '[]\nnull\n{"part":"all"}')
  expect(readLedger(folder)).toEqual([])
})
