import { useEventListener } from '@vueuse/core'
import type { Person, Deed } from '~~/core/people/person'
import { may } from '~~/core/people/person'
import type { Amendment } from '~~/core/playbook/amending'
import type { Playbook } from '~~/core/playbook/playbook'
import type { SessionAnswer } from '~~/core/people/session'
import type { Evidence } from '~~/core/ranking/situation/evidence'

/**
 * Why a page is locked: nobody used it for long, its session ended, somebody else is signed in by now, or whoever is at the
 * bench changes.
 */
export type Lock = { readonly why: 'idle' | 'ended' | 'other' | 'change'; readonly words: string }

const PERSON_KEY = 'lantern:person'

/** Who is signed in, the server's time, and the playbook: what every page shares. */
export const useSessionStore = defineStore('session', () => {
  const person = ref<Person | null>(null)
  const needsOwner = ref(false)
  const demoPeople = ref<SessionAnswer['demoPeople']>([])
  const playbook = shallowRef<Playbook | null>(null)
  const evidence = shallowRef<Evidence | null>(null)
  const isLoaded = ref(false)
  const idleMinutes = ref(30)
  const ahead = ref(0)
  /** nothing is shown or sent while the page is locked; what is typed on it stays */
  const lock = shallowRef<Lock | null>(null)
  watch(person, (is) => (pagePerson.value = is?.id ?? null), { flush: 'sync' })

  async function load() {
    const answer = await api<SessionAnswer>('GET', '/api/session')
    // A page that somebody works on stays theirs, locked, until they or somebody else sign in.
    if (isLoaded.value && person.value && answer.person?.id !== person.value.id)
      return lockAs(answer.person ? 'other' : 'ended', endWords(answer.person?.name))
    person.value = answer.person
    needsOwner.value = answer.needsOwner
    demoPeople.value = answer.demoPeople
    idleMinutes.value = answer.idleMinutes
    ahead.value = Date.parse(answer.now) - Date.now()
    isLoaded.value = true
    if (person.value && !playbook.value) await loadPlaybook()
  }

  /** The playbook and what the shop's runs have taught: what plans are made with. */
  async function loadPlaybook() {
    const [read, learned] = await Promise.all([
      api<Playbook>('GET', '/api/playbook'),
      api<Evidence>('GET', '/api/evidence'),
    ])
    evidence.value = learned
    playbook.value = read
  }

  // Another tab or another bench may change the playbook, or end a run that teaches something. Where the answer
  // does not come, planning goes on with what is here, and the next change asks again.
  watch(learnedHeard, (_, before) => {
    if (before !== null && playbook.value) void loadPlaybook().catch(() => undefined)
  })

  async function amend(amendment: Amendment) {
    playbook.value = await api<Playbook>('POST', '/api/playbook', amendment)
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

  async function enter(path: '/api/session' | '/api/first-start', body: unknown) {
    await api('POST', path, body)
    await load()
    noteUsed()
    if (!person.value) return
    rememberPerson(person.value)
    localStorage.setItem(PERSON_KEY, String(person.value.id))
  }

  /**
   * Signs somebody in on a page that is open: whoever it belongs to goes on where they were; for anybody else it begins anew,
   * so that nothing of the one is shown or sent as the other's.
   */
  async function unlock(signIn: string, password: string) {
    const entered = await api<{ person: Person }>('POST', '/api/session', { signIn, password })
    rememberPerson(entered.person)
    noteUsed()
    localStorage.setItem(PERSON_KEY, String(entered.person.id))
    if (entered.person.id !== person.value?.id) return location.reload()
    person.value = entered.person
    endHeard.value = null
    lock.value = null
  }

  async function leave() {
    await api('DELETE', '/api/session')
    localStorage.removeItem(PERSON_KEY)
    person.value = null
    await navigateTo('/sign-in')
  }

  return {
    person,
    needsOwner,
    demoPeople,
    playbook,
    evidence,
    loadPlaybook,
    amend,
    isLoaded,
    load,
    idleMinutes,
    lock,
    lockAs,
    enter,
    unlock,
    leave,
    now: () => Date.now() + ahead.value,
    may: (deed: Deed) => person.value !== null && may(person.value.role, deed),
  }
})
