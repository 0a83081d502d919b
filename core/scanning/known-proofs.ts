import { formatOfName } from '../files/formats/registry'
import type { Answers, Helpers, Question } from './helpers'
import type { MediaItem } from './item'
import type { Proof } from './prove'

/**
 * What a deep scan has proved already, as a helper tells it: a record whose place and length are those of a whole file of its
 * kind is not followed once more. All else is asked of `others`.
 */
export function knownProofs(items: readonly MediaItem[], others?: Helpers): Helpers {
  const whole = new Map<string, MediaItem>()
  for (const item of items)
    if (item.content === 'intact' && item.extents.length === 1 && item.source === null)
      whole.set(item.extents[0]!.join(), item)
  const known = (question: Question): Proof | undefined => {
    if (question.asks !== 'proof' || question.extents.length !== 1) return undefined
    const item = whole.get(question.extents[0]!.join())
    const own = formatOfName(question.name)
    return item && own !== null && own === formatOfName(`x.${item.extension}`) ? proofOf(item) : undefined
  }
  return {
    worthAfter: others?.worthAfter ?? 0,
    get hasRoom() {
      return others?.hasRoom ?? false
    },
    ask: (question) => {
      if (!known(question)) others?.ask(question)
    },
    answer: <Asked extends Question>(question: Asked) =>
      (known(question) as Answers[Asked['asks']] | undefined) ?? others?.answer(question),
    pass: (offset) => others?.pass(offset),
  }
}

const proofOf = ({ mime, extension, type, bytes, checks }: MediaItem): Proof => ({
  walk: {
    mime: mime ?? '',
    extension,
    type,
    bytes,
    whole: 'intact',
    checks: [...checks],
    provenTo: bytes,
    breaksAt: bytes,
    resume: [],
  },
  verdict: 'proves',
  isNothing: false,
  isOtherType: false,
})
