import { z } from 'zod'
import { STORAGE_KINDS } from '../cases/shape/storage'

/** How fast media are read at this shop, in MB (10^6 bytes) a second; a kind that is not there is read as usual. */
export const Speeds = z.partialRecord(
  z.enum(STORAGE_KINDS),
  z.number('is not a number').min(0.1, 'is below 0.1').max(100_000),
)
export type Speeds = z.infer<typeof Speeds>

/** What the playbook's waits per gigabyte were measured at, MB/s. */
export const USUAL_SPEEDS: Readonly<Record<(typeof STORAGE_KINDS)[number], number>> = {
  card: 90,
  stick: 60,
  'spinning-disk': 120,
  'solid-state': 400,
  'phone-flash': 35,
}

/** By how much longer than usual a medium of this kind is read at this shop: 2 at half the speed, 1 for an unknown kind. */
export function slownessOf(speeds: Speeds, kind: string): number {
  const known = STORAGE_KINDS.find((one) => one === kind)
  const own = known && speeds[known]
  return known && own !== undefined ? USUAL_SPEEDS[known] / own : 1
}
