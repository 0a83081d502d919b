import type { RequestListener } from 'node:http'
import { isIP } from 'node:net'
import { logSecurity } from '../people/security-log'
import { hasOwner } from '../people/store'
import { askedAddress, LOOPBACK } from './address'
import { currentCertificate, ownNames, type ServerCertificate } from './certificates'
import { Doors } from './doors'
import { frontDoor } from './front-door'
import { logFault } from '../log-fault'

const LOOK_AGAIN_MS = 3_600_000
const STRICT_SECONDS = 365 * 86_400

let shown: ServerCertificate | null = null
let addresses: readonly string[] = []

/** The certificate that this server presents, and its addresses with TLS; null where only this machine is let in. */
export const shownCertificate = () => shown && { ...shown, addresses }

/**
 * Listens on the loopback address, and on the address of the settings with TLS; before there is an owner, on nothing
 * else. Throws an Error with one line for the person who starts the server.
 */
export async function openDoors(listener: RequestListener): Promise<Doors> {
  const { database, clock } = useLantern()
  const { host: asked, port, isOpen: isOpenAsked } = askedAddress()
  const set = (process.env.LANTERN_HOSTS ?? '').split(',').map((name) => name.trim().toLowerCase())
  const names = set.filter((name) => name !== '')
  const isOwned = hasOwner(database)
  const host = isOwned ? asked : LOOPBACK
  if (isOpenAsked && !isOwned)
    console.warn(`No owner exists yet, so this listens on ${LOOPBACK} only; start it again after the first sign-in.`)
  const isOpen = isOwned && isOpenAsked
  const files = {
    certificate: process.env.LANTERN_TLS_CERT,
    key: process.env.LANTERN_TLS_KEY,
    folder: dataFolder(),
  }
  const certificate = () => currentCertificate(files, ownNames(names), Date.now())
  if (isOpen) shown = await certificate()
  const doors = new Doors(
    frontDoor(listener, {
      names: new Set(isOpen ? ownNames(names) : names),
      strictSeconds: files.certificate ? STRICT_SECONDS : 0,
      onRefused: (event, address) => logSecurity(database, { event, address }, clock.now()),
    }),
    shown,
  )
  const everywhere = host === '0.0.0.0' || host === '::'
  await doors.open(host, port).catch(portWords(host, port))
  // At the machine itself no certificate is needed.
  if (isOpen && !everywhere) await doors.open(LOOPBACK, port).catch(portWords(LOOPBACK, port))
  if (isOpen) {
    // A tablet always reaches an IPv4 address, but a name only where a name server knows it.
    const rank = (name: string) => [4, 0, 6].indexOf(isIP(name))
    const own = everywhere ? ownNames(names).filter((name) => !/^(localhost|127\.|::1$|fe80:)/.test(name)) : [host]
    addresses = own
      .sort((one, other) => rank(one) - rank(other))
      .map((name) => `https://${name.includes(':') ? `[${name}]` : name}:${port}`)
    console.log(
      `Reached by TLS at ${addresses.join(' ')}\n  ${shown!.authority ? 'authority' : 'certificate'} SHA-256 ${shown!.fingerprint}`,
    )
    keepCurrent(doors, certificate)
  }
  return doors
}

const portWords = (host: string, port: number) => (error: NodeJS.ErrnoException) => {
  throw new Error(
    error.code === 'EADDRINUSE'
      ? `Port ${port} is taken on ${host}. Stop what listens there, or choose another: LANTERN_PORT=4800`
      : `This cannot listen on ${host}, port ${port} (${error.code}).`,
  )
}

/** Checks now and then whether the certificate is about to expire and whether the machine has a new address. */
function keepCurrent(doors: Doors, certificate: () => Promise<ServerCertificate>): void {
  setInterval(() => {
    void certificate()
      .then((current) => {
        if (current.certificate !== shown?.certificate) doors.renew((shown = current))
      })
      .catch((error) => logFault(error))
  }, LOOK_AGAIN_MS).unref()
}
