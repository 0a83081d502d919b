import { sql, type Column, type SQL } from 'drizzle-orm'

/** Signs that have a meaning in a pattern stand for themselves. */
const escaped = (text: string) => text.replace(/[\\%_]/g, (sign) => `\\${sign}`)

/** Whether a text holds what was typed, wherever in it and whatever its case (of plain letters). */
export const holds = (text: Column | SQL, typed: string): SQL => sql`${text} like ${`%${escaped(typed)}%`} escape '\\'`

/** Whether a text begins with what is given. */
export const beginsWith = (text: Column | SQL, start: string): SQL =>
  sql`${text} like ${`${escaped(start)}%`} escape '\\'`
