<script setup lang="ts">
import { timeWords } from '~~/core/local/dates'
import { historyWords, type HistoryEntry, CaseHistory } from '~~/core/cases/telling/history'

/** Every change to the case with its author, newest first. */
const store = useOpenCaseStore()
const context = useAnswerContext()
const entries = ref<HistoryEntry[]>([])
const trouble = ref<string | null>(null)
const FEW = 6
const isWhole = ref(false)

async function load() {
  if (store.code === null) return
  try {
    entries.value = (await api(CaseHistory, 'GET', `/api/cases/${encodeURIComponent(store.code)}/history`)).reverse()
    trouble.value = null
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
watch(() => [store.code, store.version], load, { immediate: true })

const lines = computed(() =>
  (isWhole.value ? entries.value : entries.value.slice(0, FEW)).map((entry) => ({
    id: entry.id,
    when: timeWords(entry.at, context.value.zone, 'EEE d MMM HH:mm'),
    by: entry.by,
    words: historyWords(entry, context.value),
    isEarlier: entry.isEarlier,
  })),
)
</script>

<template>
  <section aria-label="History" class="text-[14px]" data-test="history">
    <h2 class="section-name">History</h2>
    <p v-if="trouble" role="alert" class="text-russet-ink">{{ trouble }}</p>
    <ol class="mt-1 space-y-1">
      <li v-for="line in lines" :key="line.id">
        <span class="figure text-[12px] text-soft">{{ line.when }}</span>
        {{ line.by }}
        <span class="text-soft">{{ line.words }}{{ line.isEarlier ? ' (chained later)' : '' }}</span>
      </li>
    </ol>
    <button
      v-if="entries.length > FEW"
      type="button"
      class="mt-1 min-h-[24px] text-russet-ink underline decoration-dotted"
      :aria-expanded="isWhole"
      @click="isWhole = !isWhole"
    >
      {{ isWhole ? 'Show less' : `Show all ${entries.length} entries` }}
    </button>
  </section>
</template>
