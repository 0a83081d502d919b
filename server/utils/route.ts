import type { EventHandler, H3Event } from 'h3'
import type { z } from 'zod'
import { faultsOf } from '../../core/cases/shape/faults'
import { forgetLinkStates } from '../links/link-states'
import { LEARNED_HEADER, type ErrorShape } from '../../core/errors'
import { may, type Deed, type Person } from '../../core/people/person'
import type { Playbook } from '../../core/playbook/playbook'
import { Failure, invalid, notFound } from '../failure'
import { addressFrom } from '../people/sign-in'
import { logSecurity } from '../people/security-log'
import { requireSession, type SessionUse } from '../people/request-session'
import type { FoundSession } from '../people/sessions'
import { MAX_BODY_BYTES, readLimited } from '../http/limited-body'
import { playbookRevision, readPlaybook } from '../settings'
import { lastLearned } from '../cases/ledger-rows'
import type { Writer } from '../cases/rows'
import { requireVisible } from '../cases/visible'
import { logFault } from '../log-fault'

interface Request<Body> {
  readonly event: H3Event
  readonly body: Body
  readonly person: Person
  readonly session: FoundSession
  readonly writer: Writer
  readonly now: number
  readonly playbook: Playbook
  /** a part of the address, by name */
  readonly param: (name: string) => string
}

interface Exchange<Body extends z.ZodType, Answers extends z.ZodType | null> {
  readonly body?: Body
  /** the schema by which pages parse the answer; null for bytes, a stream, or no answer */
  readonly answers: Answers
}

interface RouteRule<Body extends z.ZodType, Answers extends z.ZodType | null>
  extends SessionUse, Exchange<Body, Answers> {
  /** what the person must be allowed to do */
  readonly may: Deed
}

/** What a route returns. Answers are typed by their schemas; they may contain more. */
type Answered<Answers> = Answers extends z.ZodType ? z.input<Answers> : unknown

/** In tests, each answer is also parsed as the pages parse it. */
const checksAnswers = process.env.LANTERN_CHECK_ANSWERS === '1'

function checked<Answer>(schema: z.ZodType | null, answer: Answer): Answer {
  // As it will arrive: without what JSON omits.
  if (checksAnswers && schema) schema.parse(JSON.parse(JSON.stringify(answer)))
  return answer
}

/** A route for signed-in people: checks session, role and body, then answers; all errors leave in one shape. */
export function defineRoute<Answers extends z.ZodType | null, Body extends z.ZodType = z.ZodUndefined>(
  rule: RouteRule<Body, Answers>,
  answer: (request: Request<z.output<Body>>) => Answered<Answers> | Promise<Answered<Answers>>,
): EventHandler {
  return defineEventHandler(async (event) => {
    try {
      await useLantern().ready
      const { database, clock } = useLantern()
      const now = clock.now()
      admit(event, rule, now)
      // Every answer tells pages that plan whether the playbook or the evidence has changed.
      setResponseHeader(event, LEARNED_HEADER, `${playbookRevision(database)}.${lastLearned(database)}`)
      const body = await bodyOf(event, rule.body)
      // A body can be held back for minutes, so the role is checked again once it has arrived.
      const session = admit(event, rule, clock.now())
      const { person } = session
      const request: Request<z.output<Body>> = {
        event,
        body,
        person,
        session,
        writer: { by: person.name, now },
        now,
        playbook: readPlaybook(database),
        param: (name) => {
          const part = partOfAddress(event, name)
          if (name === 'code') requireVisible(database, part, person.role)
          return part
        },
      }
      if (event.method === 'GET') return checked(rule.answers, await answer(request))
      // After a write, links are asked for their state again; open benches get theirs at the end, too.
      forgetLinkStates()
      return checked(rule.answers, await Promise.resolve(answer(request)).finally(forgetLinkStates))
    } catch (error) {
      return failed(event, error)
    }
  })
}

/** The session of a request whose person may do what the route is for; throws a Failure otherwise. */
function admit(event: H3Event, rule: RouteRule<z.ZodType, z.ZodType | null>, now: number): FoundSession {
  const { database } = useLantern()
  const session = requireSession(event, database, now, rule)
  const { name, role } = session.person
  if (may(role, rule.may)) return session
  logSecurity(database, { event: 'refused-role', by: name, address: addressFrom(event) }, now)
  throw new Failure('not-allowed', `${ROLE_WORDS[role]} cannot do this.`)
}

const ROLE_WORDS = { owner: 'The owner', technician: 'A technician', counter: 'Counter staff' } as const

function partOfAddress(event: H3Event, name: string): string {
  try {
    return decodeURIComponent(getRouterParam(event, name) ?? '')
  } catch {
    throw notFound('such address')
  }
}

/** A route for people who are not signed in yet. */
export function defineOpenRoute<Answers extends z.ZodType | null, Body extends z.ZodType = z.ZodUndefined>(
  rule: Exchange<Body, Answers>,
  answer: (request: {
    event: H3Event
    body: z.output<Body>
    now: number
  }) => Answered<Answers> | Promise<Answered<Answers>>,
): EventHandler {
  return defineEventHandler(async (event) => {
    try {
      await useLantern().ready
      const body = await bodyOf(event, rule.body)
      return checked(rule.answers, await answer({ event, body, now: useLantern().clock.now() }))
    } catch (error) {
      return failed(event, error)
    }
  })
}

async function bodyOf<Schema extends z.ZodType>(event: H3Event, schema: Schema | undefined): Promise<z.output<Schema>> {
  if (!schema) return undefined as z.output<Schema>
  const text = (await readLimited(event.node.req, MAX_BODY_BYTES)).toString('utf8')
  let raw: unknown
  try {
    raw = text === '' ? undefined : JSON.parse(text)
  } catch {
    throw invalid([{ path: '', message: 'is not JSON' }])
  }
  const read = schema.safeParse(raw)
  if (!read.success) throw invalid(faultsOf(read.error))
  return read.data
}

function failed(event: H3Event, error: unknown): ErrorShape {
  if (error instanceof Failure) {
    const { database, clock } = useLantern()
    if (error.body.code === 'too-large')
      logSecurity(database, { event: 'too-large', address: addressFrom(event) }, clock.now())
    setResponseStatus(event, error.status)
    return error.body
  }
  // Unexpected: the operator reads all of it, the client only that nothing was left half done.
  logFault(error)
  setResponseStatus(event, 500)
  return {
    code: 'broken',
    message: 'The server failed because of a fault in it.',
    safe: 'What was saved before is safe. This request was not carried out.',
    fields: [],
  }
}
