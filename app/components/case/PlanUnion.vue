<script setup lang="ts">
import type { ReachMap } from '~~/core/pictures/reach-map'
import type { FullPlan } from '~~/core/ranking/situation/plan-shape'

/** The last row of the plan: what all of its routes bring together. */
const props = defineProps<{
  full: FullPlan
  map: ReachMap
  lit: number[][]
  /** of the picture, in pixels */
  width: number
  cursor: number | null
}>()
const emit = defineEmits<{ point: [time: number | null] }>()
const share = computed(() => props.full.override?.share ?? props.full.plan.expected.share)
const spent = computed(() => props.full.plan.expected)
</script>

<template>
  <div class="plan-grid plan-row is-union" data-test="union">
    <span />
    <span class="min-w-0">
      <span class="block font-bold leading-tight">All together</span>
      <span class="plan-why">
        Between {{ percent(share[0]) }} and {{ percent(share[2]) }} in total, with what is back already.
      </span>
    </span>
    <span class="flex items-center gap-2">
      <span class="min-w-0 flex-1">
        <ReachCells
          :map="map"
          :lit="lit"
          :width="width"
          :height="34"
          :cursor="cursor"
          @point="(time) => emit('point', time)"
        />
      </span>
      <span class="w-[40px] shrink-0" />
    </span>
    <span class="figure font-bold">{{ percent(share[1]) }}</span>
    <span class="figure text-[13px]">
      {{ minutesWords(spent.handsOn) }}
      <span v-if="spent.waiting >= 1" class="block text-soft">+ {{ minutesWords(spent.waiting) }}</span>
    </span>
    <span />
  </div>
</template>

<style scoped>
.is-union {
  border-top: 2px solid var(--ink);
}
</style>
