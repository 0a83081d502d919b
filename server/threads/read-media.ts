// Reads media beside the server's thread, so that a slow or worn one delays only requests for itself.
import { openContent } from '../../core/volumes/kept-content'
import { SECTION_PARTS } from '../../core/bench/medium'
import { findVolumes } from '../../core/volumes/volumes'
import { inUseOf } from '../../core/volumes/section'
import { PatientSource } from '../../core/sources/patient-source'
import { partsSay } from '../../disk/split-parts'
import { openMedium } from './open-medium'
import { answerOrders } from './answer-orders'
import type { Description, ReadBytes, ReadOrder } from './messages'

const TRIES = 3

type Opened = ReturnType<typeof openMedium>
/** One medium a worker; it stays open as long as the worker lives. */
let opened: { readonly medium: Opened; readonly image: PatientSource } | null = null

function answer(order: ReadOrder): Description | ReadBytes {
  opened ??= open(order)
  const { image } = opened
  if (order.ask === 'describe') {
    const { volumes, warnings } = findVolumes(image, order.medium.opened)
    return {
      bytes: image.size,
      volumes: volumes.map(({ shape }) => shape),
      inUse: inUseOf(image.size, volumes, SECTION_PARTS),
      warnings: [...partsSay(order.medium.path), ...warnings].slice(0, 100),
    }
  }
  const content = openContent(image, order.extents, order.kept)
  const before = image.unreadableBytes
  let bytes = new Uint8Array(content.read(order.offset, order.length))
  // A bad sector is tried again at once: somebody is waiting for just these bytes.
  if (image.unreadableBytes > before && image.retry(TRIES).length > 0)
    bytes = new Uint8Array(content.read(order.offset, order.length))
  return { bytes, missing: missingIn(order, before) }
}

/** How many bytes of some content are unreadable: beyond the end of the medium, or refused now or before. */
function missingIn({ extents, kept, offset, length }: Extract<ReadOrder, { ask: 'read' }>, before: number): number {
  const { image } = opened!
  if (kept.as !== 'pieces') return image.unreadableBytes - before
  const bad: (readonly [number, number])[] = [...image.unreadable(), [image.size, Infinity]]
  let [start, missing] = [0, 0]
  for (const [at, bytes] of extents) {
    const from = Math.max(offset, start)
    const to = Math.min(offset + length, start + bytes)
    if (at >= 0 && to > from)
      for (const [place, size] of bad)
        missing += Math.max(0, Math.min(at + to - start, place + size) - Math.max(at + from - start, place))
    start += bytes
  }
  return missing
}

function open({ medium: place }: ReadOrder) {
  const medium = openMedium(place)
  return { medium, image: new PatientSource(medium) }
}

answerOrders(answer)
