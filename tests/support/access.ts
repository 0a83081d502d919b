import { readdirSync, readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { ErrorShape } from '../../core/errors'
import { Client, type Method } from './client'

const ROOT = resolve(import.meta.dirname, '../..')
const API = resolve(ROOT, 'server/api')
const ROLES = ['ottilie', 'bram', 'jory', null] as const

/** Every route there is, read from the files that make them. */
export function routes(): string[] {
  return readdirSync(API, { recursive: true, encoding: 'utf8' })
    .filter((file) => file.endsWith('.ts') && !file.includes('[...]'))
    .map((file) => {
      const [, path, method] = /^(.*)\.(get|post|put|patch|delete)\.ts$/.exec(file)!
      return `${method!.toUpperCase()} /api/${path!.replace(/\/?\bindex$/, '')}`
    })
}

/** The table as docs/access.md has it: for each route, whether owner, technician, counter staff and nobody may ask it. */
export function accessTable(): Map<string, boolean[]> {
  const lines = readFileSync(resolve(ROOT, 'docs/access.md'), 'utf8').matchAll(/^\| `([A-Z]+ \S+)`\s*\|(.*)\|$/gm)
  return new Map([...lines].map(([, route, cells]) => [route!, cells!.split('|').map((cell) => cell.trim() === 'yes')]))
}

const fill = (path: string) =>
  path
    .replace('[code]', 'SL-0012')
    .replace('[run]', 'r1')
    .replace('[link]', 'korvane-7')
    .replace('[upload]', '00000000-0000-0000-0000-000000000000')
    .replace(/\[\w+\]/g, '999999')

async function codeOf(client: Client, method: Method, path: string): Promise<string> {
  const answer = await client.fetch(path, method, { data: method === 'GET' ? undefined : {} })
  const error = ErrorShape.safeParse(await answer.json().catch(() => null))
  return error.success ? error.data.code : `${answer.status}`
}

/** The status of an event stream; it never ends on its own, so it is closed then. */
async function streamCode(client: Client, path: string): Promise<string> {
  const leave = new AbortController()
  const answer = await fetch(client.address + path, { headers: { cookie: client.cookie }, signal: leave.signal })
  const code = answer.ok ? '200' : ((await answer.json()) as ErrorShape).code
  leave.abort()
  return code
}

/** Calls every route of the table in every role on the demo; returns the answers that differ from the table. */
export async function wrongRights(address: string): Promise<string[]> {
  const asked = await Promise.all(
    ROLES.map(async (name) => {
      const client = new Client(address)
      return name ? client.signIn(name) : client
    }),
  )
  const wrong: string[] = []
  for (const [route, may] of accessTable()) {
    const [method, path] = route.split(' ') as [Method, string]
    // Signing out would end what asks.
    if (route === 'DELETE /api/session') continue
    for (const [at, client] of asked.entries()) {
      const filled = fill(path)
      const code = path.endsWith('/events') ? await streamCode(client, filled) : await codeOf(client, method, filled)
      const isRefused = code === 'not-allowed' || code === 'not-signed-in'
      if (isRefused === may[at]) wrong.push(`${route} as ${ROLES[at] ?? 'nobody'}: ${code}`)
    }
  }
  return wrong
}
