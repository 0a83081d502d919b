import type { Person, Deed } from '~~/core/people/person'
import { may } from '~~/core/people/person'
import type { Amendment } from '~~/core/playbook/amending'
import type { Playbook } from '~~/core/playbook/playbook'
import type { Evidence } from '~~/core/ranking/evidence'

interface SessionAnswer {
  person: Person | null
  now: string
  needsOwner: boolean
  demoPeople: { name: string; signIn: string; password: string; role: string }[]
}

/** Who is signed in, the server's time, and the playbook: what every page shares. */
export const useSessionStore = defineStore('session', () => {
  const person = ref<Person | null>(null)
  const needsOwner = ref(false)
  const demoPeople = ref<SessionAnswer['demoPeople']>([])
  const playbook = shallowRef<Playbook | null>(null)
  const evidence = shallowRef<Evidence | null>(null)
  const isLoaded = ref(false)
  const ahead = ref(0)

  async function load() {
    const answer = await api<SessionAnswer>('GET', '/api/session')
    person.value = answer.person
    needsOwner.value = answer.needsOwner
    demoPeople.value = answer.demoPeople
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

  async function enter(path: '/api/session' | '/api/first-start', body: unknown) {
    await api('POST', path, body)
    await load()
  }

  async function leave() {
    await api('DELETE', '/api/session')
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
    enter,
    leave,
    now: () => Date.now() + ahead.value,
    may: (deed: Deed) => person.value !== null && may(person.value.role, deed),
  }
})
