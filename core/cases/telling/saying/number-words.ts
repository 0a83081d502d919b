/** Small whole numbers in words. */
export const NUMBER_WORDS: Readonly<Record<string, number>> = {
  one: 1,
  two: 2,
  three: 3,
  four: 4,
  five: 5,
  six: 6,
  seven: 7,
  eight: 8,
  nine: 9,
  ten: 10,
  eleven: 11,
  twelve: 12,
  twenty: 20,
  thirty: 30,
}

/** The number that a word stands for, or null. */
export const numberOfWord = (word: string): number | null =>
  Object.hasOwn(NUMBER_WORDS, word) ? NUMBER_WORDS[word]! : null
