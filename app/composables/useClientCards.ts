import { useDebounceFn } from '@vueuse/core'
import { type ClientCard, ClientList } from '~~/core/cases/shape/summary'

/** Clients who have been here before, found while their name or number is typed. */
export function useClientCards() {
  const found = shallowRef<ClientCard[]>([])
  const find = useDebounceFn(async (typed: string) => {
    // Known clients are only a help: where the server does not answer, typing continues without them.
    found.value =
      typed.trim().length < 2
        ? []
        : await api(ClientList, 'GET', `/api/clients?find=${encodeURIComponent(typed)}`).catch(() => [])
  }, 150)
  return { found, find }
}
