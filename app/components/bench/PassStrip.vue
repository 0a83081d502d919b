<script setup lang="ts">
import type { DataType } from '~~/core/cases/shape/data-types'
import { countWords, TYPE_WORDS } from '~~/core/cases/telling/words'
import type { FindCounts } from '~~/core/bench/filter'
import type { MediumShape, PassShape, PassWish } from '~~/core/bench/medium'

/** A medium in one line: what it is, the state of its scan, and what can be done with it. */
const props = defineProps<{
  medium: MediumShape
  pass: PassShape | null
  counts: FindCounts | null
  isChoosing: boolean
}>()
const emit = defineEmits<{ choose: [pass: 'quick' | 'both'] }>()
const store = useBenchStore()
const session = useSessionStore()
const deeds = usePassDeeds()

const progress = computed(() => props.pass?.progress ?? null)
const isMoving = computed(() => props.pass?.state === 'running' || props.pass?.state === 'queued')
const canResume = computed(() => ['paused', 'enough', 'failed'].includes(props.pass?.state ?? ''))
const left = computed(() =>
  props.pass?.state === 'running' && progress.value?.secondsLeft != null ? leftWords(progress.value.secondsLeft) : null,
)
/** How many of the wanted items have been found, where the number wanted is known. */
const wanted = computed(() => {
  const sets = props.counts?.wanted ?? []
  const of = sets.every((one) => one.of !== null) ? sets.reduce((sum, one) => sum + one.of!, 0) : null
  const found = progress.value?.wanted ?? sets.reduce((sum, one) => sum + one.found, 0)
  return { found, of, isEnough: of !== null && of > 0 && found >= of }
})
/** What was found so far, by type, most frequent first. */
const kinds = computed(() =>
  Object.entries(progress.value?.byType ?? {})
    .filter(([, count]) => count > 0)
    .sort(([, one], [, other]) => other - one)
    .map(([type, count]) => countWords(count, TYPE_WORDS[type as DataType])),
)
const rate = computed(() => (progress.value && props.pass?.state === 'running' ? rateSays(progress.value) : null))
/** Announced to a screen reader only now and then. */
const spoken = computed(() => {
  if (!props.pass || !progress.value) return ''
  const tens = Math.floor(percentOf(progress.value) / 10) * 10
  return isMoving.value ? `${tens}% done` : passSays(props.pass)
})

const can = computed(() => session.may('work') && !props.isChoosing)
function wish(what: PassWish) {
  if (props.pass && can.value) void deeds.wish(props.pass.id, what)
}
useSingleKeys({
  p: ['pause or resume the scan', () => (isMoving.value ? wish('pause') : canResume.value && wish('resume'))],
  e: [
    'end the scan: enough was found',
    () => props.pass && ['running', 'queued', 'paused'].includes(props.pass.state) && wish('finish'),
  ],
})
</script>

<template>
  <section aria-label="The medium" class="flex flex-wrap items-center gap-x-4 gap-y-1 px-5 py-1.5" data-test="medium">
    <div class="min-w-0 flex-1">
      <p class="truncate text-[15px]" :title="mediumSays(medium)" data-test="medium-says">{{ mediumSays(medium) }}</p>
      <p v-if="isMoving && kinds.length > 0" class="text-[13px] text-soft" data-test="kinds">
        found so far: {{ kinds.join(', ') }}{{ rate ? `; ${rate}` : '' }}
      </p>
      <p v-else-if="pass?.sha256" class="figure truncate text-[12px] text-soft" data-test="sha256">
        SHA-256 {{ pass.sha256 }}
      </p>
    </div>
    <p class="text-[14px]" :class="{ 'text-russet-ink': pass?.state === 'failed' }" data-test="pass-says">
      <template v-if="pass">
        <span class="figure">{{ passSays(pass) }}</span>
        <span v-if="left" class="ml-3 text-soft">{{ left }}</span>
        <span v-if="isMoving && progress" class="ml-3">
          <strong>{{ numberWords(wanted.found) }}</strong>
          {{ wanted.of === null ? 'wanted found' : `of about ${wanted.of} wanted found` }}
        </span>
      </template>
      <span v-else class="text-soft">not scanned yet</span>
    </p>
    <p class="sr-only" role="status">{{ spoken }}</p>
    <div v-if="can && pass" class="flex gap-2">
      <button v-if="isMoving" type="button" class="pass-action" :disabled="store.isBusy" @click="wish('pause')">
        Pause
        <KeyCap shipped="P" />
      </button>
      <button
        v-if="canResume"
        type="button"
        :class="pass.state === 'enough' || wanted.isEnough ? 'quiet-action' : 'main-action'"
        :disabled="store.isBusy"
        @click="wish('resume')"
      >
        Resume
        <KeyCap shipped="P" />
      </button>
      <button
        v-if="['running', 'queued', 'paused'].includes(pass.state)"
        type="button"
        :class="wanted.isEnough ? 'main-action' : 'quiet-action'"
        :disabled="store.isBusy"
        @click="wish('finish')"
      >
        End scan
        <KeyCap shipped="E" />
      </button>
      <button
        v-if="['queued', 'paused', 'failed'].includes(pass.state)"
        type="button"
        class="quiet-action"
        :disabled="store.isBusy"
        title="Cancels the scan and discards its list. The shelf is not affected."
        @click="wish('discard')"
      >
        Discard results
      </button>
      <button
        v-if="pass.state === 'done' && pass.options.pass === 'quick'"
        type="button"
        :class="wanted.isEnough ? 'quiet-action' : 'pass-action'"
        @click="emit('choose', 'both')"
      >
        Deep scan …
      </button>
      <button
        v-else-if="!isMoving && pass.state !== 'paused'"
        type="button"
        class="quiet-action"
        @click="emit('choose', 'both')"
      >
        Scan again …
      </button>
    </div>
  </section>
</template>

<style scoped>
.pass-action {
  display: inline-flex;
  align-items: center;
  gap: 0.6rem;
  min-height: 34px;
  padding: 0.3rem 0.9rem;
  border: 2px solid var(--russet);
  background: var(--sheet);
  color: var(--russet-ink);
  font-family: var(--font-head);
  font-weight: 650;
}
</style>
