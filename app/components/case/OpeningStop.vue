<script setup lang="ts">
import { askingOf, type Option } from '~~/core/cases/telling/asking'
import { optionsOf } from '~~/core/cases/telling/answering'
import type { Stop } from '~~/core/cases/shape/permission'

/**
 * Shown where a client's data would be opened, while that is refused or not recorded yet: what is missing, and the next
 * question, which is answered here.
 */
const props = defineProps<{ stop: Stop }>()
const store = useOpenCaseStore()
const session = useSessionStore()

/** The next question, with its answers as buttons; a name is typed. */
const ask = computed(() => {
  const [path] = props.stop.asks
  const asking = path === undefined ? null : askingOf(path)
  return asking && path !== undefined ? { path, label: asking.label, options: optionsOf(asking.control) } : null
})
const typed = ref('')
function choose({ value }: Option) {
  if (ask.value) store.set([{ fact: ask.value.path, is: value }])
}
function type() {
  if (!ask.value || typed.value.trim() === '') return
  store.set([{ fact: ask.value.path, is: typed.value.trim() }])
  typed.value = ''
}
const isNo = computed(() => props.stop.code !== 'not-recorded')
</script>

<template>
  <section
    aria-label="Consent"
    class="border-2 border-held p-3 text-[14px]"
    :class="isNo ? 'bg-held-ground' : ''"
    data-test="stop"
    :data-stop="stop.code"
  >
    <p class="font-bold text-held">{{ isNo ? stop.says : 'Before anything is opened' }}</p>
    <p v-if="isNo" class="mt-1">
      Nothing is opened, listed, selected or copied, for any role. What was found before is kept, and shown to nobody.
    </p>
    <p v-if="isNo && ask" class="mt-1">If that changes, record it in the docket: {{ ask.label.toLowerCase() }}.</p>
    <p v-else-if="isNo" class="mt-1">An owner lifts the stop on the page “hand-over”.</p>
    <template v-else-if="ask && session.may('log')">
      <p class="mt-1">{{ ask.label }}{{ stop.asks.length > 1 ? ` (${stop.asks.length} to ask)` : '' }}:</p>
      <form v-if="ask.options.length === 0" class="mt-1 flex gap-2" @submit.prevent="type">
        <input v-model="typed" class="field min-w-0 flex-1" maxlength="120" :aria-label="ask.label" />
        <button type="submit" class="quiet-action">Record</button>
      </form>
      <div v-else class="mt-1.5 flex flex-wrap gap-2">
        <button
          v-for="option in ask.options"
          :key="option.words"
          type="button"
          class="quiet-action"
          @click="choose(option)"
        >
          {{ option.words }}
        </button>
      </div>
    </template>
  </section>
</template>
