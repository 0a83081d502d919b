<script setup lang="ts">
import { askingOf } from '~~/core/cases/asking'
import type { Plan } from '~~/core/ranking/plan-shape'

/** How long until something is back, and until the plan stops, as ranges; and what the plan could not tell apart. */
const props = defineProps<{ plan: Plan; isOwnOrder: boolean }>()
const money = useMoney()

type Range = readonly [number, number, number]
function between(range: Range, words: (amount: number) => string): string {
  const [low, high] = [words(range[0]), words(range[2])]
  if (low === high) return low
  // "28 to 32 min" rather than "28 min to 32 min"
  const unit = / [a-z]+$/.exec(low)?.[0]
  return unit && high.endsWith(unit) ? `${low.slice(0, -unit.length)} to ${high}` : `${low} to ${high}`
}

const first = computed(() => {
  const { first } = props.plan.expected
  if (!first || props.isOwnOrder) return null
  const wait = first.waiting[2] >= 1 ? ` and ${between(first.waiting, minutesWords)} of waiting` : ''
  return `The first items come back with ${percent(first.chance)}, after ${between(first.handsOn, minutesWords)} of work${wait}.`
})
const stop = computed(() => {
  const { stop } = props.plan.expected
  if (!stop || props.isOwnOrder) return null
  const cost = stop.money[2] >= 1 ? `, ${between(stop.money, money)}` : ''
  const wait = stop.waiting[2] >= 1 ? ` and ${between(stop.waiting, minutesWords)} of waiting` : ''
  return `The whole plan: ${between(stop.handsOn, minutesWords)} of work${wait}${cost}.`
})
const folded = computed(() => {
  const names = props.plan.states.folded.map((fact) => askingOf(fact)?.label ?? fact)
  return names.length === 0
    ? null
    : `Counted at their middle, since they move little here: ${[...new Set(names)].join(', ')}.`
})
</script>

<template>
  <p class="mt-2 px-1.5 text-[13.5px] text-soft" data-test="estimate">
    <span class="text-ink">{{ first }} {{ stop }}</span>
    {{ folded }}
  </p>
</template>
