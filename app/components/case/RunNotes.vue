<script setup lang="ts">
import { TZDate } from '@date-fns/tz'
import { format } from 'date-fns'
import type { Run } from '~~/core/cases/shape/run'

/** Notes that were made while a run was open, and a field for the next one. */
const props = defineProps<{ run: Run }>()
const store = useOpenCaseStore()
const session = useSessionStore()
const context = useAnswerContext()
const words = ref('')
const isBusy = ref(false)

const notes = computed(() =>
  props.run.notes.map((note) => ({
    ...note,
    when: format(new TZDate(note.at, context.value.zone), 'HH:mm'),
  })),
)
async function add() {
  const note = words.value.trim()
  if (note === '' || isBusy.value) return
  isBusy.value = true
  if (await store.markRun(props.run.id, { note })) words.value = ''
  isBusy.value = false
}
</script>

<template>
  <section aria-label="Notes of the run" class="text-[14px]">
    <h3 class="section-name">Notes</h3>
    <ul v-if="notes.length > 0" class="mt-0.5 space-y-0.5">
      <li v-for="note in notes" :key="note.at + note.text" class="break-words">
        <span class="figure text-[12px] text-soft">{{ note.when }} {{ note.by }}</span>
        {{ note.text }}
      </li>
    </ul>
    <form v-if="session.may('work')" class="mt-1 flex gap-2" @submit.prevent="add">
      <input
        v-model="words"
        maxlength="1000"
        class="field min-w-0 flex-1"
        aria-label="What you see"
        placeholder="what you see"
      />
      <button type="submit" class="quiet-action" :disabled="words.trim() === '' || isBusy">Add</button>
    </form>
  </section>
</template>
