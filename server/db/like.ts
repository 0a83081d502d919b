import { sql, type Column, type SQL } from 'drizzle-orm'

/** Escapes the characters that have a meaning in a pattern. */
const escaped = (text: string) => text.replace(/[\\%_]/g, (sign) => `\\${sign}`)

/** Whether a text contains what was typed, anywhere and in any case (of ASCII letters). */
export const holds = (text: Column | SQL, typed: string): SQL => sql`${text} like ${`%${escaped(typed)}%`} escape '\\'`

/** Whether a text begins with a prefix. */
export const beginsWith = (text: Column | SQL, start: string): SQL =>
  sql`${text} like ${`${escaped(start)}%`} escape '\\'`
