import { randomUUID } from 'node:crypto'
import { holds } from '../db/like'
import { and, eq, like, or, sql } from 'drizzle-orm'
import type { Case } from '../../core/cases/shape/case'
import { digitsOf } from '../../core/cases/shape/client'
import { known } from '../../core/cases/shape/fact'
import type { ClientCard } from '../../core/cases/shape/summary'
import { clients } from '../db/tables'
import type { Handle, Writer } from './rows'

/**
 * The case with its client's card: found by number and name, or created once both are known. A case that has a card
 * keeps it, and newer details in the case are written to the card.
 */
export function withClientCard(handle: Handle, ofCase: Case, writer: Writer): Case {
  const { client } = ofCase
  if (!known(client.name)) return ofCase
  const phoneDigits = known(client.phone) ? digitsOf(client.phone) : ''
  const facts = {
    name: client.name,
    ...(known(client.phone) ? { phone: client.phone, phoneDigits } : {}),
    ...(known(client.mail) ? { mail: client.mail } : {}),
    updatedAt: new Date(writer.now).toISOString(),
  }
  const own = client.id ? handle.select().from(clients).where(eq(clients.id, client.id)).get() : undefined
  const found = own ?? (phoneDigits ? findSame(handle, client.name, phoneDigits) : undefined)
  if (found) {
    handle.update(clients).set(facts).where(eq(clients.id, found.id)).run()
    return { ...ofCase, client: { ...client, id: found.id } }
  }
  if (!phoneDigits && !known(client.mail)) return { ...ofCase, client: { ...client, id: null } }
  const id = randomUUID()
  handle
    .insert(clients)
    .values({ id, phoneDigits, ...facts })
    .run()
  return { ...ofCase, client: { ...client, id } }
}

function findSame(handle: Handle, name: string, phoneDigits: string) {
  return handle
    .select()
    .from(clients)
    .where(and(eq(clients.phoneDigits, phoneDigits), eq(sql`lower(${clients.name})`, name.toLowerCase())))
    .get()
}

const MOST = 6

/** Clients whose name, number or mail address contains what was typed so far; the latest first. */
export function findClients(handle: Handle, typed: string): ClientCard[] {
  const sought = typed.trim()
  if (sought.length < 2) return []
  const digits = digitsOf(sought)
  const byName = holds(clients.name, sought)
  const rows = handle
    .select({
      id: clients.id,
      name: clients.name,
      phone: clients.phone,
      mail: clients.mail,
      cases: sql<number>`(select count(*) from cases where cases.client_id = clients.id and not cases.is_stopped)`,
    })
    .from(clients)
    .where(
      digits.length >= 3 && digits.length >= sought.length / 2
        ? or(byName, like(clients.phoneDigits, `%${digits}%`))
        : byName,
    )
    .orderBy(sql`${clients.updatedAt} desc`)
    .limit(MOST)
    .all()
  return rows
}
