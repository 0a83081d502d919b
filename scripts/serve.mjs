// Starts the built server and waits until it answers.
import { spawn } from 'node:child_process'
import { createServer } from 'node:net'
import { join } from 'node:path'
import { fail, root } from './set-up.mjs'

const LOOPBACK = '127.0.0.1'

function isFree(port) {
  return new Promise((resolve) => {
    const probe = createServer()
    probe.once('error', () => resolve(false))
    probe.listen(port, LOOPBACK, () => probe.close(() => resolve(true)))
  })
}

/** Ends with a clear line where the port cannot be used. */
export async function requirePort(port) {
  if (!/^\d{2,5}$/.test(String(port)) || Number(port) > 65535) fail(`LANTERN_PORT is no port: ${port}`)
  if (!(await isFree(Number(port))))
    fail(`Port ${port} is taken. Stop what listens there, or choose another: LANTERN_PORT=4800 npm run demo`)
}

/** Starts the server as a child that ends with this process; its address is returned once it answers. */
export async function serve({ port, env = {} }) {
  await requirePort(port)
  const child = spawn(process.execPath, [join(root, '.output/server/index.mjs')], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, ...env, LANTERN_PORT: String(port) },
  })
  child.on('exit', (code, signal) => process.exit(signal ? 0 : (code ?? 1)))
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal))
  // The shop's own machine is always let in without TLS.
  const address = `http://${LOOPBACK}:${port}`
  for (let tries = 0; tries < 150; tries++) {
    const answer = await fetch(`${address}/api/session`).catch(() => null)
    if (answer?.ok) return address
    await new Promise((resolve) => setTimeout(resolve, 200))
  }
  child.kill()
  fail('The server did not answer within 30 seconds; what it said stands above.')
}
