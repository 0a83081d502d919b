import { createServer, get } from 'node:https'
import type { AddressInfo } from 'node:net'
import { describe, expect, it } from 'vitest'
import {
  fingerprintOf,
  isSignedBy,
  makeAuthority,
  makeServerCertificate,
  permits,
  serves,
  type KeyPair,
} from './certificate'

const NOW = Date.now()
const NAMES = ['localhost', 'bench.local', '127.0.0.1', '192.168.7.20']

/** What a client that trusts this authority makes of a server with that certificate, asked by a name. */
async function askAs(name: string, pair: KeyPair, authority: string): Promise<string> {
  const server = createServer({ cert: pair.certificate, key: pair.key }, (_, response) => response.end('answered'))
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done))
  const { port } = server.address() as AddressInfo
  try {
    return await new Promise<string>((done) => {
      get({ host: '127.0.0.1', port, servername: name, headers: { host: name }, ca: authority }, (answer) => {
        answer.on('data', (data) => done(String(data)))
      }).on('error', (error: NodeJS.ErrnoException) => done(`${error.code} ${error.message}`))
    })
  } finally {
    server.close()
  }
}

describe('the shop’s own certificate', () => {
  it('is trusted for the shop’s names by whoever trusts its authority, and by nobody else', async () => {
    const authority = await makeAuthority(NAMES, NOW)
    const pair = await makeServerCertificate(authority, NAMES, NOW)
    expect(isSignedBy(pair.certificate, authority.certificate)).toBe(true)
    expect(await askAs('localhost', pair, authority.certificate)).toBe('answered')
    expect(await askAs('localhost', pair, (await makeAuthority(NAMES, NOW)).certificate)).toMatch(
      /SIGNATURE|ISSUER|VERIFY/,
    )
    expect(await askAs('elsewhere.example', pair, authority.certificate)).toContain('ERR_TLS_CERT_ALTNAME_INVALID')
  })

  it('cannot vouch for a name outside of the shop, whoever has the authority’s key', async () => {
    const authority = await makeAuthority(NAMES, NOW)
    for (const outside of ['elsewhere.example', '203.0.113.9']) {
      const forged = await makeServerCertificate(authority, [outside, 'localhost'], NOW)
      expect(await askAs('localhost', forged, authority.certificate)).toMatch(/PERMITTED|CONSTRAINT|permitted/i)
    }
  })

  it('serves its names until it nears its end', async () => {
    const authority = await makeAuthority(NAMES, NOW)
    const { certificate } = await makeServerCertificate(authority, NAMES, NOW)
    const day = 86_400_000
    expect(serves(certificate, NAMES, NOW, 30)).toBe(true)
    expect(serves(certificate, [...NAMES, '192.168.7.21'], NOW, 30)).toBe(false)
    expect(serves(certificate, NAMES, NOW + 370 * day, 30)).toBe(false)
    expect(serves(certificate, NAMES, NOW - 2 * day, 30)).toBe(false)
    expect(await permits(authority.certificate, [...NAMES, '192.168.7.21', 'fd00::7'])).toBe(true)
    expect(await permits(authority.certificate, ['counter.local'])).toBe(false)
    expect(await permits((await makeAuthority(['203.0.113.9'], NOW)).certificate, ['203.0.113.9'])).toBe(true)
    expect(fingerprintOf(certificate)).toMatch(/^([0-9A-F]{2}:){31}[0-9A-F]{2}$/)
  })
})
