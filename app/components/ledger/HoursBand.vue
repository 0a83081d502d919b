<script setup lang="ts">
import type { LedgerAnswer } from '~~/core/ledger/answers'
import { HOUR_WORDS, type HourGroup } from '~~/core/ledger/hours'

/** Where the hours went, as one band; below it the same in words. */
const props = defineProps<{ hours: LedgerAnswer['hours'] }>()
const FILLS: Record<Exclude<HourGroup, 'waiting'>, string> = {
  'scans-machine': 'var(--ink)',
  'scans-hands': '#6d5a4d',
  backups: '#9a8572',
  'bins-cloud': 'var(--held)',
  versions: '#5f8f89',
  people: '#8fb3ab',
  laboratory: '#7a3015',
  'other-hands': '#b98c74',
}
const { to } = useLedgerFilter()
const own = computed(() =>
  props.hours.flatMap(({ group, minutes }) => (group === 'waiting' ? [] : [{ group, minutes }])),
)
const waiting = computed(() => props.hours.find(({ group }) => group === 'waiting')?.minutes ?? 0)
const total = computed(() => own.value.reduce((sum, { minutes }) => sum + minutes, 0))
const hoursWords = (minutes: number) =>
  minutes < 90 ? `${Math.round(minutes)} min` : `${numberWords(Math.round(minutes / 60))} h`
</script>

<template>
  <div class="flex h-[26px] gap-[2px]" aria-hidden="true">
    <span
      v-for="{ group, minutes } in own"
      :key="group"
      :style="{ flexGrow: minutes, flexBasis: 0, background: FILLS[group] }"
    />
  </div>
  <ul class="mt-2 flex flex-wrap gap-x-6 gap-y-1 text-[14px]" data-test="hours">
    <li v-for="{ group, minutes } in own" :key="group" class="flex items-center gap-2">
      <span class="size-[11px] border border-line" :style="{ background: FILLS[group] }" aria-hidden="true" />
      <NuxtLink :to="to('/ledger/runs', { hours: group })" class="underline decoration-dotted">
        {{ HOUR_WORDS[group] }}
      </NuxtLink>
      <span class="figure text-[13px] text-soft">{{ hoursWords(minutes) }}, {{ percent(minutes / total) }}</span>
    </li>
    <li v-if="waiting > 0" class="text-soft">
      beside it,
      <NuxtLink :to="to('/ledger/runs', { hours: 'waiting' })" class="underline decoration-dotted">
        {{ hoursWords(waiting) }} of waiting for somebody
      </NuxtLink>
    </li>
  </ul>
</template>
