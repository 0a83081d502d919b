import { spawn, type ChildProcess } from 'node:child_process'
import { cpSync, mkdtempSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'

/** Tuesday 24 November 2026, 10:42 in London. */
export const NOW = '2026-11-24T10:42:00Z'
const ENTRY = resolve(import.meta.dirname, '../../.output/server/index.mjs')

/** The built server on a data folder of its own. */
export class Server {
  private child: ChildProcess | null = null
  private said = ''
  readonly data: string
  port = 0

  /** with `LANTERN_DATA` on that folder, else on one of its own */
  constructor(private readonly env: Record<string, string>) {
    this.data = env.LANTERN_DATA ?? mkdtempSync(join(tmpdir(), 'lantern-shop-'))
    const filled = process.env.LANTERN_FILLED
    if (filled && env.LANTERN_DEMO === '1' && !env.LANTERN_NOW) cpSync(filled, this.data, { recursive: true })
  }

  get address() {
    return `http://127.0.0.1:${this.port}`
  }

  /** what it has written to its log */
  get log() {
    return this.said
  }

  async start() {
    if (this.port === 0) this.port = await freePort()
    const child = spawn(process.execPath, [ENTRY], {
      env: {
        PATH: process.env.PATH,
        LANTERN_DATA: this.data,
        LANTERN_PORT: String(this.port),
        LANTERN_NOW: NOW,
        LANTERN_CLOCK: 'settable',
        LANTERN_CHECK_ANSWERS: '1',
        NODE_ENV: 'production',
        // The past year of the demo is for its ledger: most tests begin sooner without it.
        LANTERN_PAST_YEAR: '0',
        ...this.env,
      },
    })
    this.child = child
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (this.said += chunk))
    for (let tries = 0; tries < 600; tries++) {
      if (child.exitCode !== null) break
      const answer = await fetch(`${this.address}/api/session`).catch(() => null)
      if (answer?.ok) return
      await new Promise((wait) => setTimeout(wait, 100))
    }
    throw new Error(`The server did not start:\n${this.said}`)
  }

  /** Ends the server; with SIGKILL it gets no chance to tidy up. */
  async stop(signal: 'SIGTERM' | 'SIGKILL' = 'SIGTERM') {
    const child = this.child
    this.child = null
    if (!child || child.exitCode !== null) return
    const ended = new Promise((done) => child.once('exit', done))
    child.kill(signal)
    await ended
  }

  async remove() {
    await this.stop('SIGKILL')
    const folder = this.data
    if (!this.env.LANTERN_DATA) rmSync(folder, { recursive: true, force: true })
  }
}

function freePort(): Promise<number> {
  return new Promise((done, failed) => {
    const probe = createServer()
    probe.once('error', failed)
    probe.listen(0, '127.0.0.1', () => {
      const address = probe.address()
      probe.close(() => done(typeof address === 'object' && address ? address.port : 0))
    })
  })
}
