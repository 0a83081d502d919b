import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readEntries } from './folder'
import { blocksMissing, readInode, runsOf, type Inode } from './inode'
import { ATTRIBUTES, ENTRY, EXTENT, INODE, INODE_FLAG, MODE } from './layout'

const BLOCK = 64
const BLOCKS = 10_000
const PER_BLOCK = BLOCK / 4

function inodeBytes(more: (view: DataView, bytes: Uint8Array) => void = () => {}): Uint8Array {
  const bytes = new Uint8Array(256)
  const view = new DataView(bytes.buffer)
  view.setUint16(INODE.mode, MODE.file | 0o644, true)
  view.setUint16(INODE.links, 1, true)
  view.setUint16(INODE.extraBytes, 32, true)
  more(view, bytes)
  return bytes
}

describe('an inode', () => {
  it('gives length, times beyond 2038 and link count', () => {
    const inode = readInode(
      inodeBytes((view) => {
        view.setUint32(INODE.size, 5, true)
        view.setUint32(INODE.sizeHigh, 2, true)
        view.setInt32(INODE.modified, -2, true)
        view.setUint32(INODE.modifiedExtra, 1 | ((250_000_000 << 2) >>> 0), true)
        view.setInt32(INODE.created, 1_700_000_000, true)
      }),
    )!
    expect(inode).toMatchObject({ isFile: true, isFolder: false, links: 1, size: 2 * 2 ** 32 + 5, deleted: null })
    expect(inode.modified).toBe(new Date((2 ** 32 - 2) * 1000 + 250).toISOString())
    expect(inode.created).toBe('2023-11-14T22:13:20.000Z')
  })

  it('says when it was deleted only once nothing links to it', () => {
    const at = (links: number) =>
      readInode(
        inodeBytes((view) => {
          view.setUint16(INODE.links, links, true)
          view.setUint32(INODE.deleted, 1_700_000_000, true)
        }),
      )!.deleted
    expect([at(1), at(0)]).toEqual([null, '2023-11-14T22:13:20.000Z'])
  })

  it('keeps what does not fit into its sixty bytes in an attribute', () => {
    const inode = readInode(
      inodeBytes((view, bytes) => {
        view.setUint32(INODE.flags, INODE_FLAG.inline, true)
        const first = 128 + 32 + 4
        view.setUint32(first - 4, ATTRIBUTES.magic, true)
        bytes.set([4, ATTRIBUTES.system], first)
        view.setUint16(first + ATTRIBUTES.value, 60, true)
        view.setUint32(first + ATTRIBUTES.valueBytes, 3, true)
        bytes.set(new TextEncoder().encode('data'), first + ATTRIBUTES.name)
        bytes.set([7, 8, 9], first + 60)
      }),
    )!
    expect(inode.isInline).toBe(true)
    expect([...inode.inlineRest]).toEqual([7, 8, 9])
  })

  it('is none where nothing was ever written', () => {
    expect(readInode(new Uint8Array(256))).toBeNull()
  })
})

const inodeOf = (size: number, flags: number, block: Uint8Array): Inode =>
  readInode(
    inodeBytes((view, bytes) => {
      view.setUint32(INODE.size, size, true)
      view.setUint32(INODE.flags, flags, true)
      bytes.set(block, INODE.block)
    }),
  )!

describe('the blocks of a file', () => {
  /** Writes block numbers into the inode and into indirect blocks, from block 9,000 on. */
  function putDown(numbers: readonly number[]) {
    const lists = new Map<number, Uint8Array>()
    const inode = new Uint8Array(INODE.blockBytes)
    const own = new DataView(inode.buffer)
    let [next, free] = [0, 9000]
    const list = (depth: number): number => {
      const bytes = new Uint8Array(BLOCK)
      const at = free++
      lists.set(at, bytes)
      for (let index = 0; index < PER_BLOCK && next < numbers.length; index++)
        new DataView(bytes.buffer).setUint32(index * 4, depth === 1 ? numbers[next++]! : list(depth - 1), true)
      return at
    }
    for (let index = 0; index < 12 && next < numbers.length; index++) own.setUint32(index * 4, numbers[next++]!, true)
    for (let depth = 1; depth <= 3 && next < numbers.length; depth++) own.setUint32((11 + depth) * 4, list(depth), true)
    return { block: inode, read: (block: number) => lists.get(block) ?? null }
  }

  it('are read through lists of lists, holes left out', () => {
    fc.assert(
      fc.property(
        fc.array(fc.oneof(fc.integer({ min: 1, max: 8000 }), fc.constant(0)), { minLength: 1, maxLength: 400 }),
        (numbers) => {
          const { block, read } = putDown(numbers)
          const runs = runsOf(inodeOf(numbers.length * BLOCK, 0, block), read, BLOCK, BLOCKS)!.runs
          const told = new Array<number>(numbers.length).fill(0)
          for (const { logical, physical, count } of runs)
            for (let at = 0; at < count; at++) told[logical + at] = physical! + at
          expect(told).toEqual(numbers)
        },
      ),
    )
  })

  it('are not reported where an indirect block leads out of the volume', () => {
    const { block } = putDown(Array.from({ length: 14 }, (_, at) => 100 + at))
    expect(runsOf(inodeOf(14 * BLOCK, 0, block), () => null, BLOCK, BLOCKS)).toBeNull()
    const far = new Uint8Array(INODE.blockBytes)
    new DataView(far.buffer).setUint32(0, BLOCKS + 5, true)
    expect(runsOf(inodeOf(BLOCK, 0, far), () => null, BLOCK, BLOCKS)).toBeNull()
  })

  function node(depth: number, entries: readonly (readonly [logical: number, count: number, place: number])[]) {
    const bytes = new Uint8Array(Math.max(INODE.blockBytes, BLOCK))
    const view = new DataView(bytes.buffer)
    view.setUint16(0, EXTENT.magic, true)
    view.setUint16(EXTENT.entries, entries.length, true)
    view.setUint16(EXTENT.depth, depth, true)
    for (const [index, [logical, count, place]] of entries.entries()) {
      const at = (index + 1) * EXTENT.bytes
      view.setUint32(at, logical, true)
      if (depth === 0) view.setUint16(at + 4, count, true)
      view.setUint32(depth === 0 ? at + 8 : at + 4, place, true)
    }
    return bytes
  }

  it('are read through a tree of extents, what was only reserved as a hole', () => {
    const leaf = node(0, [
      [8, 4, 700],
      [20, 32_768 + 6, 900],
    ])
    const root = node(1, [
      [0, 0, 51],
      [8, 0, 50],
    ]).subarray(0, INODE.blockBytes)
    const read = (block: number) => (block === 50 ? leaf : block === 51 ? node(0, [[0, 8, 300]]) : null)
    expect(runsOf(inodeOf(26 * BLOCK, INODE_FLAG.extents, root), read, BLOCK, BLOCKS)).toEqual({
      runs: [
        { logical: 0, physical: 300, count: 8 },
        { logical: 8, physical: 700, count: 4 },
        { logical: 20, physical: null, count: 6 },
      ],
      listBlocks: 2,
    })
  })

  it('are not reported where the tree contains a cycle', () => {
    const root = node(1, [[0, 0, 50]]).subarray(0, INODE.blockBytes)
    const circle = node(1, [[0, 0, 50]])
    expect(runsOf(inodeOf(BLOCK, INODE_FLAG.extents, root), () => circle, BLOCK, BLOCKS)).toBeNull()
  })
})

describe('blocks that an inode counts and no list names', () => {
  const SIZE = 4096
  const counted = (sectors: number, more: (view: DataView) => void = () => {}) =>
    readInode(
      inodeBytes((view) => {
        view.setUint32(INODE.sectors, sectors, true)
        more(view)
      }),
    )!
  const map = { runs: [{ logical: 0, physical: 40, count: 3 }], listBlocks: 1 }

  it('are counted in sectors, lists and attributes with them', () => {
    expect(blocksMissing(counted(4 * 8), map, SIZE)).toBe(0)
    expect(blocksMissing(counted(9 * 8), map, SIZE)).toBe(5)
    expect(
      blocksMissing(
        counted(5 * 8, (view) => view.setUint32(INODE.attributes, 77, true)),
        map,
        SIZE,
      ),
    ).toBe(0)
  })

  it('are counted in blocks where the inode says so', () => {
    const huge = (blocks: number) =>
      counted(blocks, (view) => view.setUint32(INODE.flags, INODE_FLAG.countsBlocks, true))
    expect([huge(4), huge(9)].map((inode) => blocksMissing(inode, map, SIZE))).toEqual([0, 5])
  })

  it('are none where the lists name more, as after a size that was set ahead', () => {
    expect(blocksMissing(counted(8), map, SIZE)).toBe(0)
  })
})

describe('a block of a folder', () => {
  function entry(name: string, inode: number, length: number, type: number = ENTRY.isFile): number[] {
    const bytes = new Uint8Array(length)
    const view = new DataView(bytes.buffer)
    view.setUint32(0, inode, true)
    view.setUint16(ENTRY.length, length, true)
    bytes[ENTRY.nameLength] = name.length
    bytes[ENTRY.type] = type
    bytes.set(new TextEncoder().encode(name), ENTRY.name)
    return [...bytes]
  }
  const read = (bytes: readonly number[]) => [...readEntries(Uint8Array.from(bytes), 500)]

  it('gives live entries, and deleted ones in the slack of the preceding entry', () => {
    const gone = entry('weir.jpg', 13, 16)
    const before = entry('lock', 12, 16 + gone.length, ENTRY.isFolder)
    before.splice(16, gone.length, ...gone)
    expect(read([...before, ...entry('gate.png', 14, 24)])).toEqual([
      { name: 'lock', inode: 12, isFolder: true, isDeleted: false },
      { name: 'weir.jpg', inode: 13, isFolder: false, isDeleted: true },
      { name: 'gate.png', inode: 14, isFolder: false, isDeleted: false },
    ])
  })

  it('gives no “.” and “..”, no inode out of range, and nothing after an impossible rec_len', () => {
    expect(read([...entry('.', 2, 12), ...entry('..', 2, 12), ...entry('far.jpg', 501, 24)])).toEqual([])
    const broken = entry('weir.jpg', 13, 16)
    broken[ENTRY.length] = 7
    expect(read([...broken, ...entry('gate.png', 14, 24)])).toEqual([])
  })

  it('does no harm whatever it holds', () => {
    let read = 0
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(63), fc.nat(255)), { maxLength: 12 }), fc.uint8Array(), (changes, more) => {
        const bytes = Uint8Array.from([...entry('lock', 12, 40), ...entry('gate.png', 14, 24), ...more])
        for (const [at, byte] of changes) bytes[at] = byte
        for (const { name, inode } of readEntries(bytes, 500)) {
          read++
          expect(name.includes('/') || inode > 500).toBe(false)
        }
      }),
    )
    expect(read).toBeGreaterThan(20)
  })
})
