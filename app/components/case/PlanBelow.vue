<script setup lang="ts">
import type { PlanOption, Standing } from '~~/core/ranking/situation/plan-shape'

/** The routes that are not in the plan, each with the reason. */
defineProps<{ options: readonly PlanOption[] }>()
const emit = defineEmits<{ choose: [id: string] }>()
const STANDING_WORDS: Record<Standing, string> = {
  plan: 'in the plan',
  closed: 'closed',
  harmful: 'would do harm',
  'not-worth-it': 'not worth it',
  covered: 'covered',
}
</script>

<template>
  <div class="mt-4 border-t border-dashed border-line pt-3">
    <h2 class="text-[14px]">Below the line</h2>
    <ul class="mt-1 space-y-1 text-[14px]">
      <li v-for="option in options" :key="option.id" class="below" data-test="below">
        <span class="standing" :class="`is-${option.standing}`">{{ STANDING_WORDS[option.standing] }}</span>
        <span>
          <button
            v-if="option.standing !== 'closed'"
            type="button"
            class="min-h-[24px] text-left font-bold underline decoration-dotted underline-offset-2"
            @click="emit('choose', option.id)"
          >
            {{ option.title }}
          </button>
          <span v-else class="font-bold text-soft line-through">{{ option.title }}</span>
          <span class="text-soft">&ensp;{{ option.says }}</span>
        </span>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.below {
  display: grid;
  grid-template-columns: 104px minmax(0, 1fr);
  gap: 8px;
  align-items: baseline;
}
@media (max-width: 760px) {
  .below {
    grid-template-columns: minmax(0, 1fr);
    gap: 0;
  }
}
.standing {
  font-size: 13px;
  color: var(--soft);
}
.standing.is-harmful {
  color: var(--russet-ink);
  font-weight: 700;
}
.standing.is-harmful::before {
  content: '▲ ';
}
</style>
