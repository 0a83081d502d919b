<script setup lang="ts">
import type { LitDay } from '~~/core/handover/lit-days'

/** What came back, day by day, as brightly as it is complete; the client taps a day to see it. */
const props = defineProps<{ days: readonly LitDay[]; what: string }>()
const emit = defineEmits<{ choose: [day: string] }>()
const clock = useClockWords()
const words = (one: LitDay) => `${clock.ofDay(one.day)}: ${one.count} ${props.what}${one.isMust ? ', matter most' : ''}`
</script>

<template>
  <div
    class="flex h-[40px] w-full gap-px"
    role="group"
    :aria-label="`What came back by day: ${what}`"
    data-test="lit-strip"
  >
    <button
      v-for="one in days"
      :key="one.day"
      type="button"
      class="min-w-[4px] flex-1"
      :class="{ must: one.isMust }"
      :style="{ background: reachColour(one.lit) }"
      :aria-label="words(one)"
      :title="words(one)"
      @click="emit('choose', one.day)"
    />
  </div>
</template>

<style scoped>
.must {
  border-bottom: 4px solid var(--russet);
}
</style>
