<script setup lang="ts">
import { askingOf } from '~~/core/cases/telling/asking'
import type { Plan } from '~~/core/ranking/situation/plan-shape'

/** How long until something is back and until the plan stops, as ranges; and where the order was too close to call. */
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

type Estimates = NonNullable<Plan['expected']['stop']>
/** "12 to 40 min of work and 1 h of waiting" */
function timeWords({ handsOn, waiting }: Estimates): string {
  const wait = waiting[2] >= 1 ? ` and ${between(waiting, minutesWords)} of waiting` : ''
  return `${between(handsOn, minutesWords)} of work${wait}`
}
const words = computed(() => {
  const { first, stop } = props.plan.expected
  if (props.isOwnOrder || !first || !stop) return null
  const cost = stop.money[2] >= 1 ? `, ${between(stop.money, money)}` : ''
  const [soon, whole] = [timeWords(first), timeWords(stop)]
  const start = `${percent(first.chance)} chance that something comes back, first after ${soon}`
  return soon === whole ? `${start}; that is the whole plan${cost}.` : `${start}. The whole plan: ${whole}${cost}.`
})
const folded = computed(() => {
  const names = props.plan.states.folded.map((fact) => askingOf(fact)?.label ?? fact)
  return names.length === 0
    ? null
    : `Counted at their middle, since they change little here: ${[...new Set(names)].join(', ')}.`
})
</script>

<template>
  <p class="mt-2 px-1.5 text-[13.5px] text-soft" data-test="estimate">
    <span class="text-ink">{{ words }}</span>
    {{ folded }}
  </p>
</template>
