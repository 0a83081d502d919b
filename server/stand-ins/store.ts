import { asc, eq } from 'drizzle-orm'
import { liveOn } from '../../stand-ins/helper/helper'
import type { Contents, StoredItem, Thing, World } from '../../stand-ins/helper/things'
import type { Database } from '../db/open'
import { standIns } from '../db/tables'

/** The stand-ins as stored, cached while no other process changes them. */
export class StandInStore {
  private readonly known = new Map<string, { version: number; thing: Thing }>()

  constructor(
    private readonly database: Database,
    readonly contents: Contents,
    private readonly zone: () => string,
  ) {}

  /** Advances their clock, then runs `work`; changes are stored before this returns. */
  with<T>(now: number, touches: string | null, work: (world: World) => T): T {
    const things = this.load()
    const before = new Map([...things.values()].map((thing) => [thing.id, signatureOf(thing)]))
    const world: World = { things, contents: this.contents, now, zone: this.zone() }
    try {
      liveOn(world)
      return work(world)
    } finally {
      this.save(
        [...things.values()].filter((thing) => thing.id === touches || signatureOf(thing) !== before.get(thing.id)),
      )
    }
  }

  /** Stores stand-ins in their first state, as if nothing had been done with them. */
  put(things: readonly Thing[]): void {
    this.database.transaction((transaction) => {
      for (const [place, thing] of things.entries()) {
        const old = transaction.select().from(standIns).where(eq(standIns.id, thing.id)).get()
        const row = { version: (old?.version ?? 0) + 1, body: written(thing) }
        transaction
          .insert(standIns)
          .values({ id: thing.id, place: old?.place ?? place, ...row })
          .onConflictDoUpdate({ target: standIns.id, set: row })
          .run()
      }
    })
  }

  isEmpty(): boolean {
    return this.database.select({ id: standIns.id }).from(standIns).limit(1).get() === undefined
  }

  private load(): Map<string, Thing> {
    const rows = this.database
      .select({ id: standIns.id, version: standIns.version })
      .from(standIns)
      .orderBy(asc(standIns.place))
      .all()
    const things = new Map<string, Thing>()
    for (const { id, version } of rows) {
      let known = this.known.get(id)
      if (known?.version !== version) {
        const row = this.database.select().from(standIns).where(eq(standIns.id, id)).get()!
        known = { version, thing: readBack(row.body) }
        this.known.set(id, known)
      }
      things.set(id, known.thing)
    }
    return things
  }

  private save(things: readonly Thing[]) {
    if (things.length === 0) return
    this.database.transaction((transaction) => {
      for (const thing of things) {
        const version = (this.known.get(thing.id)?.version ?? 0) + 1
        transaction
          .update(standIns)
          .set({ version, body: written(thing) })
          .where(eq(standIns.id, thing.id))
          .run()
        this.known.set(thing.id, { version, thing })
      }
    })
  }
}

const signatureOf = (thing: Thing) =>
  `${thing.revision} ${thing.tasks.map((task) => `${task.done}${task.state}`).join()} ${thing.keeps.length} ${thing.backups.length} ${thing.faults.dropAfter}`

/** The states of many days share lists; each list is stored once. */
function written(thing: Thing): string {
  const seen = new Map<StoredItem[], number>()
  const keeps = thing.keeps.map((keep, at) => {
    const first = seen.get(keep.items)
    if (first === undefined) seen.set(keep.items, at)
    return first === undefined ? keep : { ...keep, items: first }
  })
  return JSON.stringify({ ...thing, keeps })
}

function readBack(body: string): Thing {
  const thing = JSON.parse(body) as Thing
  for (const keep of thing.keeps) {
    const items = keep.items as unknown
    if (typeof items === 'number') keep.items = thing.keeps[items]!.items
  }
  return thing
}
