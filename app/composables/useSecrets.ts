import { SecretNotes, SecretValue, type NewSecret, type SecretNote } from '~~/core/bench/secret'

/** The passcodes and passwords that were noted for a case: which there are, and each itself when it is asked for. */
export function useSecrets(code: () => string | null) {
  const secrets = shallowRef<SecretNote[]>([])
  const path = (rest = '') => `/api/cases/${encodeURIComponent(code() ?? '')}/secrets${rest}`

  /** Runs a request; null where it failed, which is said. */
  async function asking<Result>(work: () => Promise<Result>): Promise<Result | null> {
    try {
      return await work()
    } catch (error) {
      tellFailure(error)
      return null
    }
  }
  const taking = async (work: () => Promise<SecretNote[]>) => {
    const taken = await asking(work)
    if (taken) secrets.value = taken
    return taken !== null
  }
  const load = async () => void (code() !== null && (await taking(() => api(SecretNotes, 'GET', path()))))
  const note = (secret: NewSecret) => taking(() => api(SecretNotes, 'POST', path(), secret))
  const forget = (id: number) => taking(() => api(SecretNotes, 'DELETE', path(`/${id}`)))
  const look = async (id: number) => (await asking(() => api(SecretValue, 'POST', path(`/${id}`))))?.value ?? null
  return { secrets, load, note, forget, look }
}
