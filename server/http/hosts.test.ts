import { describe, expect, it } from 'vitest'
import { isOwnHost } from './hosts'

const names = new Set(['bench.local'])

describe('the host that a request asks for', () => {
  it.each([
    ['localhost:4747', '127.0.0.1'],
    ['127.0.0.1', '127.0.0.1'],
    ['127.0.0.2:4747', '::ffff:127.0.0.2'],
    ['[::1]:4747', '::1'],
    ['192.168.7.20:4747', '192.168.7.20'],
    ['[fe80::1]:4747', 'fe80::1%eth0'],
    ['Bench.Local:4747', '192.168.7.20'],
    ['bench.local.', '127.0.0.1'],
  ])('%s at %s is ours', (host, reached) => {
    expect(isOwnHost(host, reached, names)).toBe(true)
  })

  it.each([
    ['elsewhere.example', '127.0.0.1'],
    ['elsewhere.example:4747', '192.168.7.20'],
    ['localhost.elsewhere.example', '127.0.0.1'],
    ['127.0.0.1.elsewhere.example', '127.0.0.1'],
    ['localhost', '192.168.7.20'],
    ['192.168.7.21', '192.168.7.20'],
    ['bench.local@elsewhere.example', '127.0.0.1'],
    ['', '127.0.0.1'],
    [undefined, '127.0.0.1'],
  ])('%s at %s is not', (host, reached) => {
    expect(isOwnHost(host, reached, names)).toBe(false)
  })
})
