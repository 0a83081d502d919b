import { UnreadableError } from '../../core/sources/patient-source'
import type { ByteSource } from '../../core/sources/source'
import type { Faults } from './faults'

const SECTOR_BYTES = 512
const PAGE_BYTES = 4096

/** A source that behaves as a worn medium does: slow, with places that are dead, and some that come when asked again. */
export function faultySource(source: ByteSource, faults: Faults): ByteSource {
  const { dead, weak, weakTries, bytesPerSecond, giveUpMs } = faults
  let owedMs = 0
  const tries = new Map<number, number>()
  const isIn = (stretches: Faults['dead'], from: number, to: number) =>
    stretches.some(([offset, length]) => from < offset + length && to > offset)
  /** Weak sectors count how often each was asked for by itself. */
  const isTiredOut = (offset: number, length: number) => {
    if (!isIn(weak, offset, offset + length)) return false
    if (length > SECTOR_BYTES) return true
    const sector = Math.floor(offset / SECTOR_BYTES)
    const now = (tries.get(sector) ?? 0) + 1
    tries.set(sector, now)
    return now <= weakTries
  }
  /** What was given once is remembered by the machine, as for any medium, and costs nothing again. */
  const given = new Uint8Array(Math.ceil(source.size / PAGE_BYTES))
  const freshBytes = (offset: number, length: number) => {
    let fresh = 0
    const last = Math.min(given.length - 1, Math.floor((offset + length - 1) / PAGE_BYTES))
    for (let page = Math.floor(offset / PAGE_BYTES); page <= last; page++) {
      if (given[page] === 0) fresh += PAGE_BYTES
      given[page] = 1
    }
    return fresh
  }
  const check = (offset: number, length: number) => {
    if (bytesPerSecond !== null) owedMs += (freshBytes(offset, length) / bytesPerSecond) * 1000
    if (owedMs >= 1) sleep(owedMs)
    if (owedMs >= 1) owedMs = 0
    if (!isIn(dead, offset, offset + length) && !isTiredOut(offset, length)) return
    if (giveUpMs > 0) sleep(giveUpMs)
    throw new UnreadableError(offset, length)
  }
  return {
    size: source.size,
    read: (offset, length) => {
      check(offset, length)
      return source.read(offset, length)
    },
    ...(source.readInto
      ? {
          readInto: (bytes: Uint8Array, offset: number) => {
            check(offset, bytes.length)
            return source.readInto!(bytes, offset)
          },
        }
      : {}),
  }
}

/** Blocks the thread, so it is only for processes that do nothing else. */
function sleep(ms: number): void {
  Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, ms)
}
