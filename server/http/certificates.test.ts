import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { makeAuthority, makeServerCertificate } from './certificate'
import { currentCertificate, ownNames } from './certificates'

const NOW = Date.now()
const DAY_MS = 86_400_000
const NAMES = ['localhost', '192.168.7.20']
let folder = ''
beforeEach(() => void (folder = mkdtempSync(join(tmpdir(), 'lantern-tls-'))))
afterEach(() => rmSync(folder, { recursive: true, force: true }))

describe('the certificate to serve with', () => {
  it('is made once for this user alone, and stays until it nears its end', async () => {
    const first = await currentCertificate({ folder }, NAMES, NOW)
    expect(statSync(join(folder, 'tls/authority.key')).mode & 0o777).toBe(0o600)
    expect(await currentCertificate({ folder }, NAMES, NOW + 300 * DAY_MS)).toEqual(first)
    const renewed = await currentCertificate({ folder }, NAMES, NOW + 370 * DAY_MS)
    expect(renewed.certificate).not.toBe(first.certificate)
    expect(renewed.authority).toBe(first.authority)
  })

  it('is renewed for a new address under the same authority, and for a new name under a new one', async () => {
    const first = await currentCertificate({ folder }, NAMES, NOW)
    const moved = await currentCertificate({ folder }, ['localhost', '192.168.7.99'], NOW)
    expect(moved.certificate).not.toBe(first.certificate)
    expect(moved.authority).toBe(first.authority)
    expect((await currentCertificate({ folder }, ['bench.local'], NOW)).authority).not.toBe(first.authority)
  })

  it('is created again where its file was cut', async () => {
    const first = await currentCertificate({ folder }, NAMES, NOW)
    const file = join(folder, 'tls/server.key')
    writeFileSync(file, readFileSync(file, 'utf8').slice(0, 40))
    expect((await currentCertificate({ folder }, NAMES, NOW)).authority).toBe(first.authority)
  })

  it('of the settings is taken as it is, and refused in words where it cannot be', async () => {
    const authority = await makeAuthority(NAMES, NOW)
    const pair = await makeServerCertificate(authority, NAMES, NOW)
    const [certificate, key] = [join(folder, 'own.crt'), join(folder, 'own.key')]
    writeFileSync(certificate, pair.certificate)
    writeFileSync(key, pair.key)
    expect(await currentCertificate({ certificate, key, folder }, NAMES, NOW)).toMatchObject({
      ...pair,
      authority: null,
    })
    const refused = async (what: { certificate?: string; key?: string }, now = NOW) =>
      currentCertificate({ ...what, folder }, NAMES, now).catch((error: Error) => error.message)
    expect(await refused({ certificate })).toContain('belong together')
    expect(await refused({ certificate, key: join(folder, 'none') })).toContain('ENOENT')
    expect(await refused({ certificate, key }, NOW + 500 * DAY_MS)).toContain('ended on')
    writeFileSync(key, authority.key)
    expect(await refused({ certificate, key })).toContain('do not belong together')
  })
})

it('the machine is known by its addresses and by the names that were set', () => {
  expect(ownNames(['bench.shop.example'])).toEqual(
    expect.arrayContaining(['localhost', '127.0.0.1', 'bench.shop.example']),
  )
})
