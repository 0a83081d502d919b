import type { Amendment } from '~~/core/playbook/amending'

/** Saves lines of the settings one after the other: one that is left while another is being saved is saved next. */
export function useSettingLines() {
  const playbooks = usePlaybookStore()
  const session = useSessionStore()
  /** what is wrong with a line, until it is saved */
  const problems = ref<Record<string, string>>({})
  let last: Promise<unknown> = Promise.resolve()

  const forget = (key: string) =>
    (problems.value = Object.fromEntries(Object.entries(problems.value).filter(([one]) => one !== key)))

  function keep(key: string, amendment: Amendment) {
    const next = last.then(async () => {
      try {
        await playbooks.amend(amendment)
        forget(key)
        await session.load()
        tellDone('Saved.')
        return true
      } catch (error) {
        const [field] = error instanceof ApiFailure ? error.error.fields : []
        problems.value[key] = field ? `This ${field.message}.` : failureWords(error)
        return false
      }
    })
    last = next
    return next
  }
  return { keep, forget, problemAt: (key: string) => problems.value[key] }
}
