import { z } from 'zod'
import { fact, name, text } from './fact'

/** Digits with the marks people put between them; at least three digits. */
const phone = text(40).regex(/^[+(]?[0-9][0-9 ()/.-]{2,}$/, 'is not a phone number')
const mail = text(120).regex(/^[^\s@]+@[^\s@]+$/, 'is not a mail address')

/** Who asks, and how to reach them. `id` names the shop's card of a returning client. */
export const Client = z.object({
  id: z.string().max(60).nullable().default(null),
  name: fact(name(120)),
  phone: fact(phone),
  mail: fact(mail),
})
export type Client = z.infer<typeof Client>

/** The digits of a phone number, for finding it however it was typed. */
export function digitsOf(phoneNumber: string): string {
  return phoneNumber.replace(/\D/g, '')
}
