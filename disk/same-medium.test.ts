import { mkdirSync, mkdtempSync, rmSync, statSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { liesOnSource, nearestThere, numberOf } from './same-medium'

const root = mkdtempSync(join(tmpdir(), 'lantern-same-medium-'))
afterAll(() => rmSync(root, { recursive: true }))
const image = join(root, 'card.img')
writeFileSync(image, 'x')
const here = numberOf(statSync(root).dev)

let count = 0
/** A system that reports the device that a test wants for this folder. */
function system(lay: (sys: string, block: (path: string, files?: Record<string, string>) => string) => string) {
  const sys = join(root, `sys-${++count}`)
  const block = (path: string, files: Record<string, string> = {}) => {
    const folder = join(sys, 'devices', path)
    mkdirSync(folder, { recursive: true })
    for (const [name, text] of Object.entries(files)) {
      mkdirSync(dirname(join(folder, name)), { recursive: true })
      writeFileSync(join(folder, name), text)
    }
    return folder
  }
  const own = lay(sys, block)
  mkdirSync(join(sys, 'dev/block'), { recursive: true })
  symlinkSync(own, join(sys, 'dev/block', here))
  return { sys, mounts: join(root, 'no mounts') }
}

describe('a shelf', () => {
  it('is not on an image beside it on the same disk of the shop', () => {
    expect(
      liesOnSource(
        join(root, 'shelf'),
        image,
        system((_, block) => block('disk/disk1', { partition: '1' })),
      ),
    ).toBe(false)
  })

  it('is on an image that is mounted at it', () => {
    const mounted = system((_, block) => block('loop0', { 'loop/backing_file': `${image}\n` }))
    expect(liesOnSource(join(root, 'shelf'), image, mounted)).toBe(true)
    const other = system((_, block) => block('loop0', { 'loop/backing_file': '/another/card.img\n' }))
    expect(liesOnSource(join(root, 'shelf'), image, other)).toBe(false)
  })

  it('is on an image through a partition of it and through a mapped device too', () => {
    const partition = system((_, block) => {
      block('loop0', { 'loop/backing_file': `${image}\n` })
      return block('loop0/loop0p1', { partition: '1' })
    })
    expect(liesOnSource(join(root, 'shelf'), image, partition)).toBe(true)
    const sealed = system((_, block) => {
      const below = block('loop1', { 'loop/backing_file': `${image}\n` })
      const above = block('dm-0')
      mkdirSync(join(above, 'slaves'))
      symlinkSync(below, join(above, 'slaves', 'loop1'))
      return above
    })
    expect(liesOnSource(join(root, 'shelf'), image, sealed)).toBe(true)
  })

  it('is inside itself', () => {
    expect(liesOnSource(image, image)).toBe(true)
  })
})

describe('a path', () => {
  it('that does not exist yet is on the device of its nearest existing parent', () => {
    expect(nearestThere(join(root, 'a/b/c'))).toBe(root)
  })

  it('is on a device that is called by its major and minor number', () => {
    expect(numberOf(0x801)).toBe('8:1')
    expect(numberOf(Number((259n << 8n) | 7n | (1n << 20n)))).toBe('259:263')
  })
})
