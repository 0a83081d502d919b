import { readdirSync, readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { request as requests, type APIRequestContext } from '@playwright/test'
import { ErrorShape } from '../core/errors'
import { expect, signIn, test, type Name } from './support/shop'

const ROOT = resolve(import.meta.dirname, '..')
const API = resolve(ROOT, 'server/api')
const ROLES: readonly (Name | null)[] = ['ottilie', 'bram', 'jory', null]

/** Every route there is, read from the files that make them. */
function routes(): string[] {
  return readdirSync(API, { recursive: true, encoding: 'utf8' })
    .filter((file) => file.endsWith('.ts') && !file.includes('[...]'))
    .map((file) => {
      const [, path, method] = /^(.*)\.(get|post|put|patch|delete)\.ts$/.exec(file)!
      return `${method!.toUpperCase()} /api/${path!.replace(/\/?\bindex$/, '')}`
    })
}

/** The table as docs/access.md has it: for each route, whether owner, technician, counter staff and nobody may ask it. */
function table(): Map<string, boolean[]> {
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

test('every route answers the roles that docs/access.md names, and no other', async ({ shop }) => {
  test.setTimeout(120_000)
  const said = table()
  expect([...said.keys()].sort()).toEqual(routes().sort())
  const asked = await Promise.all(
    ROLES.map(async (name) => {
      const context = await requests.newContext({ baseURL: shop.address })
      if (name) await signIn(context, name)
      return context
    }),
  )
  const wrong: string[] = []
  for (const [route, may] of said) {
    const [method, path] = route.split(' ') as [string, string]
    // Signing out would end what asks.
    if (route === 'DELETE /api/session') continue
    for (const [at, context] of asked.entries()) {
      const address = fill(path)
      const code = path.endsWith('/events')
        ? await streamCode(context, `${shop.address}${address}`)
        : await codeOf(context, method, address)
      const isRefused = code === 'not-allowed' || code === 'not-signed-in'
      if (isRefused === may[at]) wrong.push(`${route} as ${ROLES[at] ?? 'nobody'}: ${code}`)
    }
  }
  expect(wrong).toEqual([])
})

async function codeOf(context: APIRequestContext, method: string, path: string): Promise<string> {
  const answer = await context.fetch(path, { method, data: method === 'GET' ? undefined : {} })
  const error = ErrorShape.safeParse(await answer.json().catch(() => null))
  return error.success ? error.data.code : `${answer.status()}`
}

/** What a stream answers at first; it never ends by itself, so it is left then. */
async function streamCode(context: APIRequestContext, url: string): Promise<string> {
  const { cookies } = await context.storageState()
  const cookie = cookies.map(({ name, value }) => `${name}=${value}`).join('; ')
  const leave = new AbortController()
  const answer = await fetch(url, { headers: { cookie }, signal: leave.signal })
  const code = answer.ok ? '200' : ((await answer.json()) as ErrorShape).code
  leave.abort()
  return code
}
