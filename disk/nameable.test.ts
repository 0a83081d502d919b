import { linkSync, mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { nameable } from './nameable'

const folder = mkdtempSync(join(tmpdir(), 'lantern-nameable-'))
afterAll(() => rmSync(folder, { recursive: true }))
const data = join(folder, 'shop', 'data')
mkdirSync(join(data, 'shelf'), { recursive: true })
writeFileSync(join(data, 'lantern.sqlite'), 'x')
mkdirSync(join(folder, 'backups'))
writeFileSync(join(folder, 'card.img'), 'x')
symlinkSync(data, join(folder, 'way-in'))
symlinkSync(join(folder, 'card.img'), join(folder, 'card-link.img'))
linkSync(join(data, 'lantern.sqlite'), join(folder, 'other-name.img'))

const faultOf = (path: string, as: 'medium' | 'folder') => {
  const named = nameable(path, as, data)
  return 'fault' in named ? named.fault : null
}

describe('what an owner names', () => {
  it('is the real place, wherever a link leads', () => {
    expect(nameable(join(folder, 'card-link.img'), 'medium', data)).toEqual({ path: join(folder, 'card.img') })
    expect(nameable(join(folder, 'backups'), 'folder', data)).toEqual({ path: join(folder, 'backups') })
  })

  it.each([
    ['the data folder', data],
    ['a folder in it', join(data, 'shelf')],
    ['a folder around it', join(folder, 'shop')],
    ['a link to it', join(folder, 'way-in')],
    ['the root', '/'],
    ['the system’s processes', '/proc'],
    ['the system’s devices', '/sys/class'],
    ['a file', join(folder, 'card.img')],
    ['what is not there', join(folder, 'nothing')],
    ['a relative path', 'backups'],
  ])('is, for backups, never %s', (_, path) => {
    expect(faultOf(path, 'folder')).not.toBe(null)
  })

  it.each([
    ['the database', join(data, 'lantern.sqlite')],
    ['the database through a link', join(folder, 'way-in', 'lantern.sqlite')],
    ['the database under another name', join(folder, 'other-name.img')],
    ['the memory of this machine', '/proc/kcore'],
    ['a file that the system makes up', '/proc/self/environ'],
    ['a character device', '/dev/zero'],
    ['a terminal', '/dev/tty'],
    ['a folder', join(folder, 'backups')],
  ])('is, as a medium, never %s', (_, path) => {
    expect(faultOf(path, 'medium')).not.toBe(null)
  })
})
