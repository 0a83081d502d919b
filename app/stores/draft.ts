import { DraftAnswer, TrialAnswer, withDraft, type DraftChange } from '~~/core/playbook/draft'
import { Playbook } from '~~/core/playbook/playbook'

/** The draft of the playbook: what of it was tried, and the playbook as it would be. */
export const useDraftStore = defineStore('draft', () => {
  const playbooks = usePlaybookStore()
  const answer = shallowRef<DraftAnswer>({ draft: null, clashes: [] })
  /** null until the draft, as it is now, was tried */
  const trial = shallowRef<TrialAnswer | null>(null)
  const isTrying = ref(false)

  const draft = computed(() => answer.value.draft)
  /** the playbook as it would be */
  const drafted = computed(() =>
    playbooks.playbook && draft.value ? withDraft(playbooks.playbook, draft.value) : playbooks.playbook,
  )
  const changed = computed(
    () =>
      new Set([
        ...(draft.value?.kinds.map(({ id }) => id) ?? []),
        ...(draft.value?.removed ?? []),
        ...(draft.value?.settled.map(({ kind }) => kind) ?? []),
      ]),
  )

  async function ask(method: 'GET' | 'PUT' | 'POST' | 'DELETE', path: string, body?: unknown) {
    answer.value = await api(DraftAnswer, method, path, body)
    if (method !== 'GET') trial.value = null
  }
  const load = () => ask('GET', '/api/playbook/draft')
  const change = (one: DraftChange) => ask('PUT', '/api/playbook/draft', one)
  const drop = () => ask('DELETE', '/api/playbook/draft')
  const bring = (file: unknown) => ask('POST', '/api/playbook/file', file)

  async function tryIt() {
    isTrying.value = true
    try {
      trial.value = await api(TrialAnswer, 'POST', '/api/playbook/try')
    } finally {
      isTrying.value = false
    }
  }
  async function take(reason: string) {
    playbooks.playbook = await api(Playbook, 'POST', '/api/playbook/take', { reason })
    await load()
    trial.value = null
  }
  async function backTo(version: number, reason: string) {
    playbooks.playbook = await api(Playbook, 'POST', `/api/playbook/versions/${version}`, { reason })
    await load()
  }

  return {
    draft,
    clashes: computed(() => answer.value.clashes),
    drafted,
    changed,
    trial,
    isTrying,
    load,
    change,
    drop,
    bring,
    tryIt,
    take,
    backTo,
  }
})
