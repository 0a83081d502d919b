import { describe, expect, it } from 'vitest'
import { NOT_ITS_NAME, type MediaItem } from './item'
import { merged, namedByLength, withoutContradictions } from './merge'

const item = (more: Partial<MediaItem>): MediaItem => ({
  key: 'r0-0',
  volume: 0,
  path: null,
  record: 'deleted',
  created: null,
  modified: null,
  deleted: null,
  bytes: 1000,
  mime: 'image/jpeg',
  extension: 'jpg',
  type: 'photos',
  foundBy: ['quick'],
  content: 'intact',
  checks: [],
  extents: [[4096, 1000]],
  source: null,
  ...more,
})
const found = (more: Partial<MediaItem>) => item({ record: 'none', foundBy: ['deep'], ...more })

describe('what both passes found', () => {
  it('is one item with its name, and as whole as the structure proves', () => {
    const all = merged([item({ path: 'a.jpg', content: 'unverified' })], [found({})])
    expect(all).toMatchObject([{ path: 'a.jpg', content: 'intact', foundBy: ['quick', 'deep'] }])
  })

  it('takes its extents from the deep scan where those of its record do not fit', () => {
    const pieces = [
      [4096, 400],
      [9000, 600],
    ] as const
    const record = { path: 'a.mp4', mime: 'video/mp4', content: 'partial' } as const
    const inPieces = found({ mime: 'video/mp4', content: 'unverified', extents: pieces })
    expect(merged([item(record)], [inPieces])).toMatchObject([
      { path: 'a.mp4', content: 'unverified', extents: pieces },
    ])
    // At the same place it equals the record's find; and what the record proves is kept.
    expect(merged([item(record)], [found({ content: 'unverified' })])).toMatchObject([{ content: 'partial' }])
    expect(merged([item({ ...record, content: 'intact' })], [inPieces])).toMatchObject([{ extents: [[4096, 1000]] }])
  })

  it('has exactly the length in its record, although its name belongs to another file', () => {
    const record = item({ path: 'a.jpg', mime: null, content: 'overwritten', checks: [NOT_ITS_NAME] })
    const text = found({ mime: 'text/plain', content: 'unverified' })
    expect(merged([record], [text])).toMatchObject([{ path: 'a.jpg', mime: 'text/plain', content: 'unverified' }])
    // What is in use by others stays overwritten.
    const taken = item({ path: 'a.jpg', mime: null, content: 'overwritten', checks: ['in use by others'] })
    expect(merged([taken], [text])).toMatchObject([{ content: 'overwritten' }])
  })

  it('stays apart where the content is of another file than the record', () => {
    const all = merged([item({ path: 'a.txt', mime: null, bytes: 9000, content: 'partial' })], [found({})])
    expect(all).toHaveLength(2)
  })
})

describe('two deleted files in the same place', () => {
  const contents = (...items: MediaItem[]) => {
    withoutContradictions(items)
    return items.map(({ content }) => content)
  }
  it('are neither of them called whole', () => {
    expect(contents(item({}), item({ extents: [[4608, 1000]] }))).toEqual(['unverified', 'unverified'])
    expect(
      contents(item({ extents: [[0, 90_000]], bytes: 90_000 }), item({}), item({ extents: [[50_000, 1000]] })),
    ).toEqual(['unverified', 'unverified', 'unverified'])
  })
  it('are one file where they are copies of one entry', () => {
    expect(contents(item({ path: 'a.jpg' }), item({ path: 'b.jpg' }))).toEqual(['intact', 'intact'])
  })
  it('are both whole where they only touch, or one is there', () => {
    expect(contents(item({}), item({ extents: [[5096, 1000]] }))).toEqual(['intact', 'intact'])
    expect(contents(item({ record: 'present' }), item({ extents: [[4608, 1000]] }))).toEqual(['intact', 'intact'])
  })
})

describe('a name of which the record was given away', () => {
  const lost = (path: string, more: Partial<MediaItem> = {}) =>
    item({ path, bytes: 5000, content: 'overwritten', extents: [], foundBy: ['quick'], ...more })
  const content = (more: Partial<MediaItem> = {}) => found({ bytes: 5000, extents: [[8192, 5000]], ...more })

  it('is that of the only content of its kind and length', () => {
    const all = namedByLength([lost('lock/weir.jpg'), content(), content({ bytes: 5001 })])
    expect(all).toHaveLength(2)
    expect(all[0]).toMatchObject({
      path: 'lock/weir.jpg',
      content: 'intact',
      extents: [[8192, 5000]],
      foundBy: ['quick', 'deep'],
    })
  })

  it.each([
    ['two names agree', [lost('a.jpg'), lost('b.jpg'), content()]],
    ['two contents agree', [lost('a.jpg'), content(), content({ extents: [[50_000, 5000]] })]],
    ['the kind is another', [lost('a.png'), content()]],
    ['it is too short to tell', [lost('a.jpg', { bytes: 500 }), content({ bytes: 500 })]],
    ['the content is broken', [lost('a.jpg'), content({ content: 'partial' })]],
  ])('is nobody’s where %s', (_, items) => {
    expect(namedByLength(items)).toEqual(items)
    expect(items[0]!.content).toBe('overwritten')
  })
})
