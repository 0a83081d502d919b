import type { z } from 'zod'

/** One request to the server: its answer, or its failure, and asking again. */
export async function useAsked<Schema extends z.ZodType>(schema: Schema, path: string) {
  const found = shallowRef<z.output<Schema> | null>(null)
  const trouble = ref<string | null>(null)
  async function load() {
    trouble.value = null
    try {
      found.value = await api(schema, 'GET', path)
    } catch (error) {
      trouble.value = failureWords(error)
    }
  }
  await load()
  return { found, trouble, load }
}
