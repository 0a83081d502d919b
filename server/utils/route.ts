import type { EventHandler, H3Event } from 'h3'
import type { z } from 'zod'
import { faultsOf } from '../../core/cases/faults'
import { LEARNED_HEADER, type ErrorShape } from '../../core/errors'
import { may, type Deed, type Person } from '../../core/people/person'
import type { Playbook } from '../../core/playbook/playbook'
import { Failure, invalid } from '../failure'
import { personExists } from '../people/store'
import { playbookRevision, readPlaybook } from '../settings'
import { lastLearned } from '../cases/evidence'
import type { Writer } from '../cases/rows'

interface Request<Body> {
  readonly event: H3Event
  readonly body: Body
  readonly person: Person
  readonly writer: Writer
  readonly now: number
  readonly playbook: Playbook
  /** a part of the address, by name */
  readonly param: (name: string) => string
}

interface RouteRule<Schema extends z.ZodType> {
  /** what the person must be allowed to do; nothing for reading */
  readonly may?: Deed
  readonly body?: Schema
}

/** A route for people who are signed in: checks the session, the role and the body, then answers; errors leave in one shape. */
export function defineRoute<Schema extends z.ZodType = z.ZodUndefined, Result = unknown>(
  rule: RouteRule<Schema>,
  answer: (request: Request<z.output<Schema>>) => Result | Promise<Result>,
): EventHandler {
  return defineEventHandler(async (event) => {
    try {
      await useLantern().ready
      const person = await personOf(event)
      if (rule.may && !may(person.role, rule.may))
        throw new Failure('not-allowed', `That is not for ${person.role} staff.`)
      const { database, clock } = useLantern()
      const now = clock.now()
      // Whoever plans in the browser hears with any answer that what plans are made with has moved on.
      setResponseHeader(event, LEARNED_HEADER, `${playbookRevision(database)}.${lastLearned(database)}`)
      return await answer({
        event,
        body: await bodyOf(event, rule.body),
        person,
        writer: { by: person.name, now },
        now,
        playbook: readPlaybook(database),
        param: (name) => decodeURIComponent(getRouterParam(event, name) ?? ''),
      })
    } catch (error) {
      return failed(event, error)
    }
  })
}

/** A route for people who are not signed in yet. */
export function defineOpenRoute<Schema extends z.ZodType = z.ZodUndefined, Result = unknown>(
  rule: { readonly body?: Schema },
  answer: (request: { event: H3Event; body: z.output<Schema>; now: number }) => Result | Promise<Result>,
): EventHandler {
  return defineEventHandler(async (event) => {
    try {
      await useLantern().ready
      return await answer({ event, body: await bodyOf(event, rule.body), now: useLantern().clock.now() })
    } catch (error) {
      return failed(event, error)
    }
  })
}

/** Who is signed in; refused where nobody is, or where that person is gone. */
export async function personOf(event: H3Event): Promise<Person> {
  const session = await getUserSession(event)
  const person = session.user as Person | undefined
  if (!person || !personExists(useLantern().database, person.id))
    throw new Failure('not-signed-in', 'Nobody is signed in here.', { safe: 'Sign in; what was saved is kept.' })
  return person
}

async function bodyOf<Schema extends z.ZodType>(event: H3Event, schema: Schema | undefined): Promise<z.output<Schema>> {
  if (!schema) return undefined as z.output<Schema>
  let raw: unknown
  try {
    raw = await readBody(event)
  } catch {
    throw invalid([{ path: '', message: 'is not JSON' }])
  }
  const read = schema.safeParse(raw)
  if (!read.success) throw invalid(faultsOf(read.error))
  return read.data
}

function failed(event: H3Event, error: unknown): ErrorShape {
  if (error instanceof Failure) {
    setResponseStatus(event, error.status)
    return error.body
  }
  // Unexpected: the operator reads the whole of it, the client only that nothing is half done.
  console.error(error)
  setResponseStatus(event, 500)
  return {
    code: 'broken',
    message: 'Something went wrong in the server.',
    safe: 'What was saved before is safe; this was not done.',
    fields: [],
  }
}
