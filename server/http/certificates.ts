import { createPrivateKey, X509Certificate } from 'node:crypto'
import {
  closeSync,
  existsSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readFileSync,
  renameSync,
  rmSync,
  writeSync,
} from 'node:fs'
import { hostname, networkInterfaces } from 'node:os'
import { join } from 'node:path'
import { DataFault } from '../db/data-folder'
import {
  fingerprintOf,
  isSignedBy,
  makeAuthority,
  makeServerCertificate,
  permits,
  serves,
  type KeyPair,
} from './certificate'

const RENEW_DAYS = 30
/** An authority is replaced early enough that tablets can be given the new one before the old one ends. */
const AUTHORITY_RENEW_DAYS = 397 + RENEW_DAYS

/** The certificate that the server presents, and where it comes from. */
export interface ServerCertificate extends KeyPair {
  /** the shop's own authority; null with a certificate by settings */
  readonly authority: string | null
  /** of the authority, or of the certificate by settings: SHA-256 */
  readonly fingerprint: string
}

/** The names and addresses of this machine: its own, and those of the settings. */
export function ownNames(set: readonly string[]): string[] {
  const host = hostname().toLowerCase()
  const addresses = Object.values(networkInterfaces()).flatMap((all) => (all ?? []).map(({ address }) => address))
  const plain = addresses.map((address) => address.split('%')[0]!)
  const local = /^[a-z0-9-]{1,63}$/.test(host) ? [host, `${host}.local`] : []
  return [...new Set(['localhost', '127.0.0.1', '::1', ...local, ...set, ...plain])]
}

/**
 * The certificate to serve with: the one of the settings, or the shop's own. The shop's own is made at the first start,
 * stored in the data folder, and renewed here before it expires or when the machine has a new address. Throws a
 * DataFault where the one of the settings cannot be used.
 */
export async function currentCertificate(
  { certificate, key, folder }: { certificate?: string; key?: string; folder: string },
  names: readonly string[],
  now: number,
): Promise<ServerCertificate> {
  if (certificate || key) return certificateOfSettings(certificate, key, now)
  const own = join(folder, 'tls')
  mkdirSync(own, { recursive: true, mode: 0o700 })
  let authority = readPair(own, 'authority')
  let server = readPair(own, 'server')
  if (
    !authority ||
    !serves(authority.certificate, [], now, AUTHORITY_RENEW_DAYS) ||
    !(await permits(authority.certificate, names))
  ) {
    authority = keepPair(own, 'authority', await makeAuthority(names, now))
    server = null
  }
  if (
    !server ||
    !isSignedBy(server.certificate, authority.certificate) ||
    !serves(server.certificate, names, now, RENEW_DAYS)
  ) {
    server = keepPair(own, 'server', await makeServerCertificate(authority, names, now))
  }
  return { ...server, authority: authority.certificate, fingerprint: fingerprintOf(authority.certificate) }
}

function certificateOfSettings(
  certificate: string | undefined,
  key: string | undefined,
  now: number,
): ServerCertificate {
  if (!certificate || !key)
    throw new DataFault('LANTERN_TLS_CERT and LANTERN_TLS_KEY belong together: name both files, or neither.')
  const read = (path: string, what: string) => {
    try {
      return readFileSync(path, 'utf8')
    } catch (error) {
      throw new DataFault(`The ${what} ${path} cannot be read (${(error as NodeJS.ErrnoException).code}).`)
    }
  }
  const pair = { certificate: read(certificate, 'certificate'), key: read(key, 'key') }
  let parsed: X509Certificate
  try {
    parsed = new X509Certificate(pair.certificate)
    if (!parsed.checkPrivateKey(createPrivateKey(pair.key))) throw new Error('another key')
  } catch {
    throw new DataFault(
      `The certificate ${certificate} and the key ${key} do not belong together, or are not PEM files.`,
    )
  }
  if (Date.parse(parsed.validTo) < now)
    throw new DataFault(`The certificate ${certificate} ended on ${parsed.validTo}.`)
  return { ...pair, authority: null, fingerprint: parsed.fingerprint256 }
}

const paths = (folder: string, name: string) => ({
  certificate: join(folder, `${name}.crt`),
  key: join(folder, `${name}.key`),
})

/** Null where it is missing or damaged; it is then made again. */
function readPair(folder: string, name: string): KeyPair | null {
  const { certificate, key } = paths(folder, name)
  if (!existsSync(certificate) || !existsSync(key)) return null
  const pair = { certificate: readFileSync(certificate, 'utf8'), key: readFileSync(key, 'utf8') }
  try {
    return new X509Certificate(pair.certificate).checkPrivateKey(createPrivateKey(pair.key)) ? pair : null
  } catch {
    return null
  }
}

function keepPair(folder: string, name: string, pair: KeyPair): KeyPair {
  const { certificate, key } = paths(folder, name)
  keep(key, pair.key)
  keep(certificate, pair.certificate)
  return pair
}

/** Writes a file whole or not at all, readable by this user only. */
function keep(path: string, text: string): void {
  const fresh = `${path}.new`
  rmSync(fresh, { force: true })
  const descriptor = openSync(fresh, 'wx', 0o600)
  try {
    writeSync(descriptor, text)
    fsyncSync(descriptor)
  } finally {
    closeSync(descriptor)
  }
  renameSync(fresh, path)
}
