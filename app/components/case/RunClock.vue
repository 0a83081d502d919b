<script setup lang="ts">
import type { Run } from '~~/core/cases/shape/run'
import { clockAt, type ClockPhase } from '~~/core/cases/shape/run-clock'

/** The two timers of an open run: hands at work, and waiting. One of them runs, or none. */
const props = defineProps<{ run: Run }>()
const store = useOpenCaseStore()
const session = useSessionStore()
const now = useTicking()

const clock = computed(() => props.run.clock)
const spent = computed(() => clock.value && clockAt(clock.value, now.value))
const timers = computed(() => [
  { phase: 'hands-on' as const, name: 'hands-on', ms: spent.value?.handsOnMs ?? 0, key: 'H' },
  { phase: 'waiting' as const, name: 'waiting', ms: spent.value?.waitingMs ?? 0, key: 'W' },
])
function toggle(phase: ClockPhase) {
  void store.markRun(props.run.id, { phase: clock.value?.phase === phase ? 'off' : phase })
}
useSingleKeys({
  h: ['hands-on timer on or off', () => session.may('work') && toggle('hands-on')],
  w: ['waiting timer on or off', () => session.may('work') && toggle('waiting')],
})
</script>

<template>
  <div class="grid grid-cols-2 gap-2" data-test="run-clock">
    <button
      v-for="timer in timers"
      :key="timer.phase"
      type="button"
      class="timer"
      :class="{ 'is-running': clock?.phase === timer.phase }"
      :aria-pressed="clock?.phase === timer.phase"
      :disabled="!session.may('work')"
      @click="toggle(timer.phase)"
    >
      <span class="flex items-center justify-between text-[13px]">
        {{ timer.name }}
        <KeyCap :shipped="timer.key" />
      </span>
      <span class="figure block text-[17px]">{{ spanClock(timer.ms) }}</span>
      <span class="block text-[12px] text-soft">{{ clock?.phase === timer.phase ? 'running' : 'stopped' }}</span>
    </button>
  </div>
</template>

<style scoped>
.timer {
  padding: 5px 9px 6px;
  text-align: left;
  border: 1px solid var(--line);
}
.timer.is-running {
  border-color: var(--held);
  background: var(--held-ground);
}
</style>
