<script setup lang="ts">
import type { LitDay } from '~~/core/handover/lit-days'

/** What came back, day by day, as brightly as it is complete; the client taps a day to see it. */
const props = defineProps<{ days: readonly LitDay[]; what: string }>()
const emit = defineEmits<{ choose: [day: string] }>()
const clock = useClockWords()
const words = (one: LitDay) => `${clock.ofDay(one.day)}: ${one.count} ${props.what}${one.isMust ? ', matter most' : ''}`
const label = computed(() => {
  const dark = props.days.filter(({ count }) => count === 0).length
  return `${props.what} that came back, by day: ${props.days.length - dark} days with some, ${dark} with none`
})
</script>

<template>
  <!-- The rows below are the way by keyboard: a day of the strip may be too narrow for a control of its own. -->
  <div class="flex h-[40px] w-full gap-px" role="img" :aria-label="label" data-test="lit-strip">
    <div
      v-for="one in days"
      :key="one.day"
      class="min-w-[3px] flex-1"
      :class="{ must: one.isMust, 'cursor-pointer': one.count > 0 }"
      :style="{ background: reachColour(one.lit) }"
      :title="words(one)"
      @click="one.count > 0 && emit('choose', one.day)"
    />
  </div>
</template>

<style scoped>
.must {
  border-bottom: 4px solid var(--russet);
}
</style>
