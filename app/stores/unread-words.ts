import { z } from 'zod'

/** Text that was typed for a fact and not understood. It is no fact, and stays in this tab until it is put right. */
const UnreadWord = z.object({ typed: z.string(), message: z.string() })
export type UnreadWord = z.infer<typeof UnreadWord>
/** The name under which text typed for one more part is kept. */
export const unreadAdding = (list: string) => `add.${list}`

/** Questions at which somebody may type the passcode or password itself: that is never stored. */
const MAY_BE_SECRET = /\.(?:passcode|password|account|state)$/

const UnreadWords = z.record(z.string(), UnreadWord)

/** The words of the open case that were not understood, by the path of their fact. */
export const useUnreadWordsStore = defineStore('unread-words', () => {
  const session = useSessionStore()
  const open = useOpenCaseStore()
  const keyOf = (code: string | null) => `lantern:unread:${session.person?.id ?? 0}:${code ?? 'new'}`
  const words = ref<Record<string, UnreadWord>>({})
  let key = ''

  function keep() {
    const kept = Object.entries(words.value).filter(([path]) => !MAY_BE_SECRET.test(path))
    if (kept.length === 0) sessionStorage.removeItem(key)
    else sessionStorage.setItem(key, JSON.stringify(Object.fromEntries(kept)))
  }

  function read() {
    try {
      words.value = UnreadWords.parse(JSON.parse(sessionStorage.getItem(key) ?? '{}'))
    } catch {
      words.value = {}
    }
  }

  watch(
    () => keyOf(open.code),
    (now) => {
      key = now
      read()
    },
    { immediate: true, flush: 'sync' },
  )

  return {
    words,
    set(path: string, word: UnreadWord | null) {
      const { [path]: _before, ...others } = words.value
      words.value = word === null ? others : { ...others, [path]: word }
      keep()
    },
    /** A new case has got its code: what was typed for it goes along. */
    carryOver() {
      const before = keyOf(null)
      const carried = sessionStorage.getItem(before)
      if (carried === null) return
      sessionStorage.removeItem(before)
      sessionStorage.setItem(key, carried)
      read()
    },
  }
})
