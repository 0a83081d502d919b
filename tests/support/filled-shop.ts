import { NOW, Server } from './server'

/**
 * Fills the demo's shop once, its plans made; every test's server starts on a copy of its data folder,
 * which takes a third of the time.
 */
export default async function fillShop() {
  const server = new Server({ LANTERN_DEMO: '1' })
  await server.start()
  await makePlans(server.address)
  await server.stop()
  process.env.LANTERN_FILLED = server.data
  return () => server.remove()
}

/** The clock is put back for it, since the servers of the tests distrust plans that were made later than they start. */
async function makePlans(address: string) {
  const json = { 'content-type': 'application/json', origin: address }
  const send = (path: string, method: string, body: object, cookie = '') =>
    fetch(address + path, { method, headers: { ...json, cookie }, body: JSON.stringify(body) })
  const signedIn = await send('/api/session', 'POST', { signIn: 'bram', password: 'towpath-heron-4' })
  const cookie = signedIn.headers.get('set-cookie')?.split(';')[0] ?? ''
  const set = await send('/api/clock', 'PUT', { now: NOW }, cookie)
  if (!set.ok) throw new Error(`The demo’s clock was not put back: ${await set.text()}`)
  const cases = await fetch(`${address}/api/cases`, { headers: { cookie } })
  if (!cases.ok) throw new Error(`The demo’s plans were not made: ${await cases.text()}`)
}
