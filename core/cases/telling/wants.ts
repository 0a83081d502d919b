import type { Control, Option } from './asking'

const SUCH_AS: Partial<Record<Control['by'], string>> = {
  text: 'a few words',
  size: 'a size, such as 128 GB',
  written: 'a size, such as 4.1 GB or 2 to 5 GB',
  count: 'a number, such as about 310',
  number: 'a number, such as 8 or none',
  money: 'a sum, such as 120',
  budget: 'a sum, such as 120, or little, the usual, whatever it takes',
  time: 'a time, such as last tuesday evening or 1 to 5 march',
  made: 'a time, such as 1 to 14 aug, or 1 to 14 aug, most on 12 aug',
  crowd: 'when most were made, such as most in august, or half on 12 sep',
  period: 'a period, such as 7 days or 2 to 3 weeks',
  part: 'a part of them, such as all, none, about 40, half, those of 2024',
  'must-have': 'all, none, or when those were made: 3 to 8 nov',
  'card-since': 'a day, such as 1 nov, or 3 weeks ago',
}

const MOST_NAMED = 2

/** What a question takes, in a few words: beside a word that was not understood, and as a hint while it is typed. */
export function wantsOf(by: Control['by'], options: readonly Option[]): string {
  const words = SUCH_AS[by]
  if (words !== undefined) return words
  if (options.length === 0) return 'a name'
  const named = options
    .slice(0, options.length <= MOST_NAMED + 1 ? options.length : MOST_NAMED)
    .map(({ words }) => words)
  return options.length > named.length ? `one of ${options.length}: ${named.join(', ')} …` : named.join(' or ')
}
