import { z } from 'zod'
import { instant } from '../cases/shape/moment'

/** The lengths that the fields of records may have, in characters; what is longer makes its row a plain one. */
export const line = z.string().max(2000)
export const body = z.string().max(200_000)
export const when = instant.nullable().default(null)

/** The first line that says something, cut to what a list shows. */
export const firstLine = (text: string) =>
  (text.split('\n').find((one) => one.trim() !== '') ?? '').trim().slice(0, 120)
