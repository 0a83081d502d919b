import { describe, expect, it } from 'vitest'
import { linkFailure } from '../../core/bench/fault'
import { asDiskFault, DiskFault, onDisk } from './disk-fault'

const system = (code: string) => Object.assign(new Error(code), { code, syscall: 'write' })

describe('a fault of the shop’s disk', () => {
  it.each([
    ['ENOSPC', true, 'full'],
    ['EDQUOT', true, 'full'],
    ['SQLITE_FULL', true, 'full'],
    ['EROFS', false, 'read only'],
    ['EACCES', false, 'does not let'],
    ['EIO', false, 'Check the disk'],
    ['SQLITE_IOERR_WRITE', false, 'database'],
    ['EMFILE', false, 'EMFILE'],
  ])('%s is said in words', (code, isFull, words) => {
    const fault = asDiskFault(system(code)) as DiskFault
    expect(fault).toBeInstanceOf(DiskFault)
    expect(fault.isFull).toBe(isFull)
    expect(fault.message).toContain(words)
  })

  it('is nothing that the other side did, and no fault of the program', async () => {
    const others = [linkFailure('damaged', 'It is damaged.'), new TypeError('x is not a function'), null]
    for (const one of others) expect(asDiskFault(one)).toBe(one)
    const aborted = Object.assign(new Error('aborted'), { code: 'ABORT_ERR' })
    expect(asDiskFault(aborted)).toBe(aborted)
    await expect(onDisk(() => Promise.reject(system('ENOSPC')))).rejects.toBeInstanceOf(DiskFault)
    await expect(onDisk(() => Promise.resolve(7))).resolves.toBe(7)
  })
})
