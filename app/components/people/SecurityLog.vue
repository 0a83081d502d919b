<script setup lang="ts">
import { timeWords } from '~~/core/local/dates'
import { securityWords, type SecurityEntry, SecurityPage } from '~~/core/people/security-log'

/** Sign-ins, refusals and what owners changed, the newest first. */
const PAGE = 30
const session = useSessionStore()
const entries = ref<SecurityEntry[]>([])
const hasMore = ref(false)
const trouble = ref<string | null>(null)

async function load(before?: number) {
  trouble.value = null
  try {
    const query = queryOf({ before, limit: PAGE })
    const page = (await api(SecurityPage, 'GET', `/api/people/log?${query}`)).entries
    entries.value = before === undefined ? page : [...entries.value, ...page]
    hasMore.value = page.length === PAGE
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
await load()

const when = (at: string) => timeWords(at, session.shop.zone, 'd MMM yyyy HH:mm')
</script>

<template>
  <section aria-label="Security log">
    <h2 class="text-xl">Security log</h2>
    <ErrorNote v-if="trouble" :words="trouble" class="mt-3" @again="load()" />
    <p v-else-if="entries.length === 0" class="mt-2 text-soft">Nothing yet.</p>
    <table v-else class="mt-3 w-full border-t border-line text-[15px]">
      <thead class="sr-only">
        <tr>
          <th scope="col">When</th>
          <th scope="col">What</th>
          <th scope="col">From</th>
        </tr>
      </thead>
      <tbody class="divide-y divide-line border-b border-line">
        <tr v-for="entry in entries" :key="entry.id">
          <td class="figure w-44 py-1.5 text-[13px] text-soft">{{ when(entry.at) }}</td>
          <td class="py-1.5">
            <strong v-if="entry.by">{{ entry.by }}</strong>
            {{ securityWords(entry.event) }}
            {{ entry.about }}
            <span v-if="entry.count > 1" class="text-soft">(at least {{ entry.count }} times in a minute)</span>
          </td>
          <td class="figure py-1.5 text-right text-[13px] text-soft">{{ entry.address }}</td>
        </tr>
      </tbody>
    </table>
    <button v-if="hasMore" type="button" class="quiet-action mt-3" @click="load(entries.at(-1)?.id)">Show older</button>
  </section>
</template>
