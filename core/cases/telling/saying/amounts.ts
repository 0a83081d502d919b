/** Powers by the unit's first letter; sizes count by 1000, as makers print them, and by 1024 where said so (GiB). */
const POWERS: Record<string, number> = { b: 0, k: 1, m: 2, g: 3, t: 4 }

export type ReadAmount =
  { readonly ok: true; readonly amount: number } | { readonly ok: false; readonly message: string }

/**
 * Reads a size as people say it ("128 GB", "about 4.1gb", "500 megabytes") into bytes.
 * A bare number up to 4 digits is taken as gigabytes, as on the label of a card.
 */
export function readSize(said: string): ReadAmount {
  const words = said
    .trim()
    .toLowerCase()
    .replace(/,(?=\d{3}\b)/g, '')
    .replace(',', '.')
  const match =
    /^(?:about |around |roughly |~ ?)?(\d{1,15}(?:\.\d{1,6})?) ?(bytes?|[kmgt]i?b?|b|kilobytes?|megabytes?|gigs?|gigabytes?|terabytes?)?$/.exec(
      words,
    )
  const number = Number(match?.[1])
  if (!match || (!match[2] && number > 9999))
    return { ok: false, message: 'This is not a size. Try “128 GB” or “4.1 GB”.' }
  const unit = match[2] ?? 'gb'
  const bytes = Math.round(number * (/^[kmgt]ib$/.test(unit) ? 1024 : 1000) ** POWERS[unit.charAt(0)]!)
  return bytes <= Number.MAX_SAFE_INTEGER
    ? { ok: true, amount: bytes }
    : { ok: false, message: 'That is more than any medium holds.' }
}

/** Reads a rough count ("about 310", "2,000", "a dozen", "1") into a whole number of at least 1. */
export function readCount(said: string): ReadAmount {
  const words = said
    .trim()
    .toLowerCase()
    .replace(/^(?:about|around|roughly|some|maybe|~) ?/, '')
    .replace(/[ ,.'](?=\d{3}\b)/g, '')
  const spoken: Record<string, number> = {
    one: 1,
    'a dozen': 12,
    dozens: 36,
    'a few': 3,
    'a couple': 2,
    'a hundred': 100,
    hundreds: 300,
    'a thousand': 1000,
    thousands: 3000,
  }
  const amount = spoken[words] ?? (/^\d{1,8}$/.test(words) ? Number(words) : NaN)
  return amount >= 1 ? { ok: true, amount } : { ok: false, message: 'This is not a count. Try “about 310” or “1”.' }
}

/** Reads an amount of money ("120", "up to 120.50") in the shop's currency. */
export function readMoney(said: string): ReadAmount {
  const words = said
    .trim()
    .toLowerCase()
    .replace(/^(?:up to|about|max(?:imum)?) ?/, '')
    .replace(/[^\d.,]/g, '')
    .replace(/,(?=\d{3}\b)/g, '')
    .replace(',', '.')
  return /^\d{1,7}(?:\.\d{1,2})?$/.test(words)
    ? { ok: true, amount: Number(words) }
    : { ok: false, message: 'This is not an amount of money. Try “120”.' }
}

const UNITS = ['bytes', 'kB', 'MB', 'GB', 'TB'] as const

/** A size in the units that people read, with at most one decimal below 100: 980 bytes, 4.1 GB, 12.5 GB, 128 GB. */
export function sayBytes(bytes: number): string {
  let [unit, size] = [0, bytes]
  while (size >= 1000 && unit < UNITS.length - 1) {
    size /= 1000
    unit++
  }
  const rounded = size >= 100 || unit === 0 ? Math.round(size) : Math.round(size * 10) / 10
  return `${rounded} ${UNITS[unit]}`
}
