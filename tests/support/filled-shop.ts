import { Server } from './server'

/** Fills the demo's shop once; every test's server starts on a copy of its data folder, which takes a third of the time. */
export default async function fillShop() {
  const server = new Server({ LANTERN_DEMO: '1' })
  await server.start()
  await server.stop()
  process.env.LANTERN_FILLED = server.data
  return () => server.remove()
}
