import { eq } from 'drizzle-orm'
import type { Handle } from '../cases/rows'
import type { Database } from '../db/open'
import { passes } from '../db/tables'

/** Another job has this pass now. */
export class Replaced extends Error {}

/**
 * The right of one job to write to its pass: the word that the pass was given when it was handed out. Once the pass has
 * another word, every method throws `Replaced` and nothing is written.
 */
export class PassClaim {
  constructor(
    private readonly database: Database,
    private readonly passId: number,
    private readonly word: string,
  ) {}

  /** The pass as it is stored. */
  pass(handle: Handle = this.database): typeof passes.$inferSelect {
    const pass = handle.select().from(passes).where(eq(passes.id, this.passId)).get()
    if (pass?.claim !== this.word) throw new Replaced()
    return pass
  }

  transaction(work: (handle: Handle) => void): void {
    this.database.transaction(
      (handle) => {
        this.pass(handle)
        work(handle)
      },
      { behavior: 'immediate' },
    )
  }

  set(handle: Handle, values: Partial<typeof passes.$inferInsert>): void {
    handle.update(passes).set(values).where(eq(passes.id, this.passId)).run()
  }
}
