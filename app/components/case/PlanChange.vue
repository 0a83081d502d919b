<script setup lang="ts">
import { isUnchanged, planChanges } from '~~/core/ranking/explain/changes'
import type { Plan } from '~~/core/ranking/situation/plan-shape'

/** What the last result changed in the plan, until somebody goes on. */
const props = defineProps<{ before: Plan; after: Plan }>()
defineEmits<{ close: [] }>()

const changes = computed(() => planChanges(props.before, props.after))
const next = computed(() => {
  const [was, is] = changes.value.next
  if (is === null) return 'Nothing is left to try.'
  return was === is ? `Next is still: ${is}.` : `Next is now: ${is}.`
})
</script>

<template>
  <section aria-label="What changed" class="border-l-2 border-held pl-3 text-[14px]" role="status" data-test="changes">
    <p class="font-bold text-held">Recorded. {{ next }}</p>
    <p v-if="isUnchanged(changes)" class="text-soft">The plan is as it was.</p>
    <p v-if="changes.expected">
      Expected in total: {{ percent(changes.expected[0]) }} → {{ percent(changes.expected[1]) }}.
    </p>
    <ul>
      <li v-for="one in changes.closed" :key="one.id">
        <span class="text-soft">closed:</span>
        {{ one.title }}
      </li>
      <li v-for="one in changes.opened" :key="one.id">
        <span class="text-soft">now in the plan:</span>
        {{ one.title }}
      </li>
      <li v-for="one in changes.dropped" :key="one.id">
        <span class="text-soft">no longer worth it:</span>
        {{ one.title }}
      </li>
    </ul>
    <button type="button" class="mt-1 min-h-[24px] text-russet-ink underline decoration-dotted" @click="$emit('close')">
      Hide
    </button>
  </section>
</template>
