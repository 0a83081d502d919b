import { eq } from 'drizzle-orm'
import type { Handle } from './history/keys'
import { settings } from './tables'

/** A setting of the shop as it is stored; null where it was never set. */
export const readSetting = (handle: Handle, key: string): string | null =>
  handle.select({ value: settings.value }).from(settings).where(eq(settings.key, key)).get()?.value ?? null

export function keepSetting(handle: Handle, key: string, value: string): void {
  handle.insert(settings).values({ key, value }).onConflictDoUpdate({ target: settings.key, set: { value } }).run()
}
