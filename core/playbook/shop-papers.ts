import { z } from 'zod'
import { text } from '../cases/shape/fact'

const days = (usual: number) => z.int().min(0, 'is below zero').max(36_500).default(usual)

/** What stands on the shop's sheets, and the periods that its terms promise. */
export const ShopPapers = z.object({
  address: text(400).default(''),
  phone: text(60).default(''),
  mail: text(120).default(''),
  /** what the tax is called here; empty where none is shown */
  taxName: text(40).default(''),
  taxNumber: text(60).default(''),
  /** within the prices, in percent */
  taxPercent: z.number().min(0, 'is below zero').max(100).default(0),
  /** the shop's own terms, below those that follow from the periods */
  terms: text(4000).default(''),
  /** days in which the same fault is looked at again without charge; 0 for no such promise */
  promiseDays: days(90),
  /** days after “ready” on which somebody reminds the client */
  reminderDays: z.array(z.int().min(1).max(3650)).max(10).default([7, 21, 45]),
  /** days after “ready” from which the terms for things that are not collected apply */
  uncollectedDays: days(90),
  /** days after the return on which what came back is wiped */
  wipeDays: days(30),
  /** days after the return for which name, contact and signatures are kept */
  personDays: days(2555),
  /** days for which the shop keeps backups of its data folder: until then they hold what was wiped */
  backupDays: days(90),
})
export type ShopPapers = z.infer<typeof ShopPapers>
