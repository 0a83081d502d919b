import type { ErrorShape } from '~~/core/errors'

/** A form being sent: busy or not, and the errors that came back, by field. */
export function useSending() {
  const isBusy = ref(false)
  const error = ref<ErrorShape | null>(null)

  /** True if it succeeded. */
  async function send(work: () => Promise<unknown>): Promise<boolean> {
    if (isBusy.value) return false
    isBusy.value = true
    error.value = null
    try {
      await work()
      return true
    } catch (thrown) {
      error.value =
        thrown instanceof ApiFailure
          ? thrown.error
          : { code: 'broken', message: failureWords(thrown), safe: '', fields: [] }
      return false
    } finally {
      isBusy.value = false
    }
  }

  const problemOf = (path: string) => {
    const field = error.value?.fields.find((one) => one.path === path)
    return field ? `This ${field.message}.` : undefined
  }
  /** the failure as a whole, where it belongs to no field */
  const problem = computed(() =>
    error.value && error.value.fields.length === 0 ? `${error.value.message} ${error.value.safe}` : null,
  )
  return { isBusy, send, problemOf, problem, error }
}
