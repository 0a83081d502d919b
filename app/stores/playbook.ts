import type { Amendment } from '~~/core/playbook/amending'
import type { Playbook } from '~~/core/playbook/playbook'
import type { Evidence } from '~~/core/ranking/situation/evidence'

/** The playbook and what the shop’s runs have taught, for the pages that plan. */
export const usePlaybookStore = defineStore('playbook', () => {
  const playbook = shallowRef<Playbook | null>(null)
  const evidence = shallowRef<Evidence | null>(null)

  /** Their schemas are large and are loaded only by pages that need them. */
  const schemas = async () => {
    const [{ Playbook }, { Evidence }] = await Promise.all([
      import('~~/core/playbook/playbook'),
      import('~~/core/ranking/situation/evidence'),
    ])
    return { Playbook, Evidence }
  }

  /** how often it was changed from here: what was read before such a change is older than it */
  let changes = 0

  async function load(): Promise<void> {
    const { Playbook, Evidence } = await schemas()
    const before = changes
    const [read, learned] = await Promise.all([
      api(Playbook, 'GET', '/api/playbook'),
      api(Evidence, 'GET', '/api/evidence'),
    ])
    if (before !== changes) return load()
    evidence.value = learned
    playbook.value = read
  }

  let loading: Promise<void> | null = null

  /** Loads both where they are missing; several callers share one request. */
  async function need() {
    if (playbook.value) return
    loading ??= load().finally(() => (loading = null))
    await loading
  }

  // Another tab or another bench may change the playbook, or end a run that teaches something. If the answer
  // does not come, planning continues with these, and the next change asks again.
  watch(learnedHeard, (_, before) => {
    if (before !== null && playbook.value) void load().catch(() => undefined)
  })

  async function amend(amendment: Amendment) {
    const { Playbook } = await schemas()
    const amended = await api(Playbook, 'POST', '/api/playbook', amendment)
    changes++
    playbook.value = amended
  }

  return { playbook, evidence, need, load, amend }
})
