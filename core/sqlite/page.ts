/** A range of a page, end exclusive. */
export interface Stretch {
  readonly from: number
  readonly to: number
}

/** A parsed b-tree page (SQLite file format, section 1.6). */
export interface TreePage {
  readonly kind: 'table-leaf' | 'table-inner' | 'index-leaf' | 'index-inner'
  /** where each cell begins */
  readonly cells: readonly number[]
  /** the right-most child of an interior page; 0 for a leaf */
  readonly last: number
  /** between the cell pointers and the first cell */
  readonly gap: Stretch
  readonly freeblocks: readonly Stretch[]
}

const KINDS: Readonly<Record<number, TreePage['kind']>> = {
  13: 'table-leaf',
  5: 'table-inner',
  10: 'index-leaf',
  2: 'index-inner',
}

/** A cell takes at least so many bytes, even where its content is shorter (file format, 1.6). */
const MIN_CELL_BYTES = 4

/** A page as part of a b-tree; null where it cannot be one. `isFirst` is the page that begins with the database's header. */
export function treePage(bytes: Uint8Array, usable: number, isFirst: boolean): TreePage | null {
  const start = isFirst ? 100 : 0
  const kind = KINDS[bytes[start] ?? 0]
  if (!kind || bytes.length < usable) return null
  const two = (at: number) => (bytes[at]! << 8) | bytes[at + 1]!
  const isInner = kind.endsWith('inner')
  const headerEnd = start + (isInner ? 12 : 8)
  const count = two(start + 3)
  const content = two(start + 5) || 65_536
  const pointersEnd = headerEnd + count * 2
  if (pointersEnd > usable || content > usable || content < pointersEnd) return null
  const cells: number[] = []
  for (let index = 0; index < count; index++) {
    const cell = two(headerEnd + index * 2)
    if (cell < pointersEnd || cell + MIN_CELL_BYTES > usable) return null
    cells.push(cell)
  }
  return {
    kind,
    cells,
    last: isInner ? ((two(start + 8) << 16) | two(start + 10)) >>> 0 : 0,
    gap: { from: pointersEnd, to: content },
    freeblocks: freeblocksOf(bytes, two(start + 1), usable),
  }
}

/** The chain of free blocks; offsets ascend, so it ends, and it stops where it is broken. */
function freeblocksOf(bytes: Uint8Array, first: number, usable: number): Stretch[] {
  const blocks: Stretch[] = []
  let at = first
  while (at > 0 && at + 4 <= usable) {
    const size = (bytes[at + 2]! << 8) | bytes[at + 3]!
    if (size < 4 || at + size > usable) break
    blocks.push({ from: at, to: at + size })
    const next = (bytes[at]! << 8) | bytes[at + 1]!
    if (next <= at) break
    at = next
  }
  return blocks
}
