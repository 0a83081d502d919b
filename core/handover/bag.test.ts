import { createHash } from 'node:crypto'
import fc from 'fast-check'
import { expect, it } from 'vitest'
import { bagTags, manifestPath } from './bag'
import { readMe } from './read-me'

const sha = (text: string) => createHash('sha256').update(text).digest('hex')
const INFO = { source: 'Lamp & Lock', identifier: 'SL-0012', date: '2026-11-24', head: '12-0a1b2-c3d4e-5f607-18293' }

it('a bag declares itself, counts its payload, and lists each file with its checksum', () => {
  const tags = bagTags(
    [
      { path: 'Photos/weir.jpg', bytes: 12, sha256: sha('a') },
      { path: 'notes.txt', bytes: 5, sha256: sha('b') },
    ],
    INFO,
    [{ name: 'read-me.txt', text: 'Hello\n' }],
  )
  const text = Object.fromEntries(tags.map(({ name, text }) => [name, text]))
  expect(text['bagit.txt']).toBe('BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n')
  expect(text['bag-info.txt']!.split('\n')).toEqual([
    'Source-Organization: Lamp & Lock',
    'External-Identifier: SL-0012',
    'Bagging-Date: 2026-11-24',
    'Payload-Oxum: 17.2',
    'Internal-Sender-Description: head of the history: 12-0a1b2-c3d4e-5f607-18293',
    '',
  ])
  expect(text['manifest-sha256.txt']).toBe(`${sha('a')}  data/Photos/weir.jpg\n${sha('b')}  data/notes.txt\n`)
  const listed = text['tagmanifest-sha256.txt']!.trim()
    .split('\n')
    .map((line) => line.split('  '))
  expect(listed.map(([, name]) => name)).toEqual(['bagit.txt', 'bag-info.txt', 'manifest-sha256.txt', 'read-me.txt'])
  for (const [digest, name] of listed) expect(sha(text[name!]!)).toBe(digest)
})

it('no name of a file breaks the manifest into other lines, and each can be read back', () => {
  fc.assert(
    fc.property(fc.array(fc.string({ unit: 'binary', minLength: 1 }), { minLength: 1, maxLength: 8 }), (paths) => {
      const lines = bagTags(
        paths.map((path) => ({ path, bytes: 1, sha256: sha(path) })),
        INFO,
      )
        .find(({ name }) => name === 'manifest-sha256.txt')!
        .text.split('\n')
        .slice(0, -1)
      expect(lines).toHaveLength(paths.length)
      const read = lines.map((line) =>
        line
          .slice(64 + 2 + 'data/'.length)
          .replace(/%(25|0A|0D)/g, (_, code: string) => String.fromCharCode(parseInt(code, 16))),
      )
      expect(read).toEqual(paths)
    }),
  )
  expect(manifestPath('50 %\n.txt')).toBe('50 %25%0A.txt')
})

it('no name of a shop adds a line to the information', () => {
  const info = bagTags([], { ...INFO, source: 'A\nPayload-Oxum: 0.0\r\nB' })[1]!.text
  expect(info.split('\n')[0]).toBe('Source-Organization: A Payload-Oxum: 0.0 B')
})

it('the client reads first how many files there are, and which are damaged or not verified', () => {
  const text = readMe('SL-0012', 'Lamp & Lock', [
    { path: 'a.jpg', whole: 'intact' },
    { path: 'b.jpg', whole: 'partial' },
    { path: 'c\nd.mp4', whole: 'unverified' },
  ])
  expect(text).toContain('3 files, in the folder “data”.\nWhole: 1. Not verified: 1. Damaged: 1.')
  expect(text).toMatch(/Damaged, only part of the content is there:\n {2}b\.jpg\n\nNot verified:\n {2}c d\.mp4/)
  expect(readMe('SL-1', '', [{ path: 'a', whole: 'intact' }])).not.toContain('Damaged, only')
})
