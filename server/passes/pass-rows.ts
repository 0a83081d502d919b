import { eq } from 'drizzle-orm'
import { passes } from '../db/tables'

/** A scan as it is stored. */
export type PassRow = typeof passes.$inferSelect
export const passRow = (id: number) => useLantern().database.select().from(passes).where(eq(passes.id, id)).get()
/** The time now, as it is stored. */
export const instant = () => new Date(useLantern().clock.now()).toISOString()
export const setPass = (id: number, values: Partial<PassRow>) =>
  useLantern().database.update(passes).set(values).where(eq(passes.id, id)).run()
