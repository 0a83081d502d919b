import { randomBytes } from 'node:crypto'
import { closeSync, existsSync, ftruncateSync, mkdirSync, openSync, readFileSync, renameSync, writeSync } from 'node:fs'
import { dirname } from 'node:path'
import { gunzipSync } from 'node:zlib'
import { shiftDates } from '../../stand-ins/media/dates'

const STEP_BYTES = 65_536

/**
 * Unpacks a stand-in medium where it is not there yet, with its pictures and clips dated this many days later, since
 * the demo’s story is relative to today. The file is complete under its name; empty areas take no space.
 */
export function unpackOnce(from: string, to: string, days: number): void {
  if (existsSync(to)) return
  mkdirSync(dirname(to), { recursive: true, mode: 0o700 })
  const image = gunzipSync(readFileSync(from))
  shiftDates(image, days)
  const part = `${to}.${randomBytes(6).toString('hex')}.part`
  const file = openSync(part, 'wx', 0o600)
  try {
    ftruncateSync(file, image.length)
    for (let at = 0; at < image.length; at += STEP_BYTES) {
      const step = image.subarray(at, at + STEP_BYTES)
      if (step.some((byte) => byte !== 0)) writeSync(file, step, 0, step.length, at)
    }
  } finally {
    closeSync(file)
  }
  renameSync(part, to)
}
