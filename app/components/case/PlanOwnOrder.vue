<script setup lang="ts">
import type { FullPlan } from '~~/core/ranking/situation/plan-shape'

/** The technician's own order: its reason and price once it is saved, the question for the reason before. */
const props = defineProps<{
  full: FullPlan
  /** the order that waits for its reason, as ids of routes; null where there is none */
  waiting: readonly string[] | null
}>()
const emit = defineEmits<{ saved: []; cancel: [] }>()
const store = useOpenCaseStore()
const session = useSessionStore()
const money = useMoney()
const reason = ref('')
const overridden = computed(() => (props.full.override ? store.current.override : null))

async function save() {
  if (!props.waiting || reason.value.trim() === '') return
  if (!(await store.override([...props.waiting], reason.value))) return
  reason.value = ''
  emit('saved')
}
</script>

<template>
  <div v-if="overridden && full.override" class="note-line" data-test="override">
    <p>
      <strong>{{ overridden.by }}’s order:</strong>
      {{ overridden.reason }}
      <span class="text-soft">It is worth {{ money(full.override.price) }} less than the best order.</span>
    </p>
    <button v-if="session.may('work')" type="button" class="quiet-action" @click="store.override(null, '')">
      Restore best order
    </button>
  </div>
  <form v-if="waiting" class="note-line" data-test="moving" @submit.prevent="save">
    <label class="flex min-w-0 flex-1 items-center gap-2">
      <span class="shrink-0">Reason for this order</span>
      <input v-model="reason" class="field min-w-0 flex-1" maxlength="400" data-test="move-reason" />
    </label>
    <button type="submit" class="quiet-action" :disabled="reason.trim() === ''">Save order</button>
    <button type="button" class="quiet-action" @click="emit('cancel')">Cancel</button>
  </form>
</template>

<style scoped>
.note-line {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
  justify-content: space-between;
  border-left: 3px solid var(--russet);
  background: var(--sheet);
  padding: 6px 10px;
  margin-bottom: 8px;
  font-size: 14px;
}
</style>
