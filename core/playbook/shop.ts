import { z } from 'zod'
import { KnownModel } from './models'
import { Printing } from './printing'
import { Prices } from './prices'
import { ShopPapers } from './shop-papers'
import { ShopTerms } from './shop-terms'
import { Speeds } from './speeds'

/** Every weight is money in the shop's currency, and the shop's to change. */
export const Weights = z.object({
  /** what having everything back is worth to a client who has not said */
  worth: z.number().min(0).default(300),
  /** times `worth`, where the client names no sum but says how much effort it is worth to them */
  littleBudget: z.number().min(0).max(100).default(0.5),
  usualBudget: z.number().min(0).max(100).default(1),
  wholeBudget: z.number().min(0).max(100).default(5),
  /** how many times more a must-have item weighs */
  mustHave: z.number().min(1).max(100).default(3),
  handsOnMinute: z.number().min(0).default(1),
  /** a minute of waiting that keeps room at the bench; other waits cost by being late only */
  waitingMinute: z.number().min(0).default(0.002),
  /** what having them back a day later takes off their worth, as a share of it */
  dayLate: z.number().min(0).max(1).default(0.01),
  /** a day's newer data on a device that a restore would erase */
  dayOfNewerData: z.number().min(0).default(10),
  /** the part of a harm that is left with a good safety copy */
  safetyCopyLeaves: z.number().min(0).max(1).default(0.15),
})
export type Weights = z.infer<typeof Weights>

const clock = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'is not a time of day such as 09:00')
const openDay = z
  .object({ from: clock, to: clock })
  .refine((day) => day.from < day.to, 'closes before it opens')
  .nullable()

/** The days of opening hours, in their order. */
export const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'] as const

/** Opening hours by day, Monday first; null is closed. */
export const Hours = z.tuple([openDay, openDay, openDay, openDay, openDay, openDay, openDay])
export type Hours = z.infer<typeof Hours>

const weekday = { from: '09:00', to: '17:30' }

/** What the engine needs to know about the shop itself. */
export const Shop = z.object({
  name: z.string().trim().min(1).max(120).default('Our shop'),
  codePrefix: z
    .string()
    .regex(/^[A-Z]{1,4}$/)
    .default('RL'),
  ...ShopTerms.shape,
  hours: Hours.default([weekday, weekday, weekday, weekday, weekday, { from: '09:30', to: '13:00' }, null]),
  weights: Weights.prefault({}),
  prices: Prices.default({}),
  speeds: Speeds.default({}),
  printing: Printing.prefault({}),
  papers: ShopPapers.prefault({}),
  /** makers and models that the shop knows, for first guesses while a model is typed */
  models: z.array(KnownModel).max(2000).default([]),
})
export type Shop = z.infer<typeof Shop>

/** What a new shop says of itself at its first start. */
export const ShopStart = Shop.pick({ name: true, zone: true, currency: true, language: true, hours: true })
