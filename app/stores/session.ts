import { useEventListener } from '@vueuse/core'
import { may, type Deed, type Person } from '~~/core/people/person'
import { EnterAnswer, SessionAnswer } from '~~/core/people/session'
import { DEFAULT_LANGUAGE, speak } from '~~/core/local/language'
import type { ShopTerms } from '~~/core/playbook/shop-terms'

/**
 * Why a page is locked: nobody used it for a while, its session ended, somebody else has signed in, or the person at
 * the bench changes.
 */
export type Lock = { readonly why: 'idle' | 'ended' | 'other' | 'change' | 'for-two'; readonly words: string }

const PERSON_KEY = 'lantern:person'
/** set while this screen is turned to a client: whoever leaves that page says who they are */
const FOR_TWO_KEY = 'lantern:for-two'

/** Who is signed in, the server’s time, and the shop’s zone, currency and language: shared by every page. */
export const useSessionStore = defineStore('session', () => {
  const person = ref<Person | null>(null)
  const needsOwner = ref(false)
  /** what a first start has to know of the machine */
  const start = shallowRef<SessionAnswer['start']>(null)
  const demoPeople = ref<SessionAnswer['demoPeople']>([])
  const shop = shallowRef<ShopTerms>({ zone: 'UTC', currency: 'GBP', language: DEFAULT_LANGUAGE })
  const isLoaded = ref(false)
  const idleMinutes = ref(30)
  const ahead = ref(0)
  /** while the page is locked it shows and sends nothing; what was typed stays */
  const lock = shallowRef<Lock | null>(null)
  watch(person, (is) => (pagePerson.value = is?.id ?? null), { flush: 'sync' })

  async function load() {
    const answer = await api(SessionAnswer, 'GET', '/api/session')
    // A page in use stays with its person, locked, until they or somebody else sign in.
    if (isLoaded.value && person.value && answer.person?.id !== person.value.id)
      return lockAs(answer.person ? 'other' : 'ended', endWords(answer.person?.name))
    person.value = answer.person
    needsOwner.value = answer.needsOwner
    start.value = answer.start
    demoPeople.value = answer.demoPeople
    idleMinutes.value = answer.idleMinutes
    ahead.value = Date.parse(answer.now) - Date.now()
    if (answer.shop) {
      await speak(answer.shop.language)
      shop.value = answer.shop
    }
    isLoaded.value = true
  }

  const endWords = (other: string | undefined) =>
    other ? `${other} is signed in on this machine now.` : 'Your session has ended.'

  function lockAs(why: Lock['why'], words: string) {
    if (person.value === null || (lock.value !== null && lock.value.why !== 'change')) return
    lock.value = { why, words }
  }

  watch(endHeard, (error) => {
    if (error) lockAs(error.code === 'other-person' ? 'other' : 'ended', error.message)
  })
  // Another tab signed somebody in or out.
  useEventListener('storage', ({ key, newValue }) => {
    if (key !== PERSON_KEY || newValue === String(person.value?.id)) return
    lockAs(newValue ? 'other' : 'ended', endWords(newValue ? knownPeople()[0]?.name : undefined))
  })

  const turnToClient = () => localStorage.setItem(FOR_TWO_KEY, 'on')
  /** Locks the page where the screen was turned to a client and shows anything else than the page for two. */
  function lockAfterClient() {
    if (localStorage.getItem(FOR_TWO_KEY) !== null) lockAs('for-two', 'This screen was turned to a client.')
  }

  async function enter(path: '/api/session' | '/api/first-start', body: unknown) {
    await apiDo('POST', path, body)
    localStorage.removeItem(FOR_TWO_KEY)
    await load()
    noteUsed()
    if (!person.value) return
    rememberPerson(person.value)
    localStorage.setItem(PERSON_KEY, String(person.value.id))
  }

  /**
   * Signs somebody in on an open page. The same person continues where they were; for anybody else the page is loaded
   * again, so that nothing of one is shown or sent as the other's.
   */
  async function unlock(signIn: string, password: string) {
    const entered = await api(EnterAnswer, 'POST', '/api/session', { signIn, password })
    localStorage.removeItem(FOR_TWO_KEY)
    rememberPerson(entered.person)
    noteUsed()
    localStorage.setItem(PERSON_KEY, String(entered.person.id))
    if (entered.person.id !== person.value?.id) return location.reload()
    person.value = entered.person
    endHeard.value = null
    lock.value = null
  }

  async function leave() {
    await apiDo('DELETE', '/api/session')
    localStorage.removeItem(PERSON_KEY)
    person.value = null
    await navigateTo('/sign-in')
  }

  return {
    person,
    needsOwner,
    start,
    demoPeople,
    shop,
    isLoaded,
    load,
    idleMinutes,
    lock,
    lockAs,
    turnToClient,
    lockAfterClient,
    enter,
    unlock,
    leave,
    now: () => Date.now() + ahead.value,
    may: (deed: Deed) => person.value !== null && may(person.value.role, deed),
  }
})
