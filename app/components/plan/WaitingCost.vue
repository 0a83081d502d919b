<script setup lang="ts">
import { known } from '~~/core/cases/shape/fact'
import { countWords, TYPE_WORDS } from '~~/core/cases/telling/words'
import { closingWords } from '~~/core/ranking/explain/closing-words'
import type { FullPlan } from '~~/core/ranking/situation/plan-shape'

/** What waiting until tomorrow would cost, in items and in money, and which windows close. */
const props = defineProps<{ full: FullPlan; now: number }>()
const store = useOpenCaseStore()
const context = useAnswerContext()
const money = useMoney()

/** Less than this, in money, is not mentioned. */
const WORTH_SAYING = 0.5
const waiting = computed(() => props.full.plan.waiting)
const items = computed(() =>
  Object.entries(waiting.value.items)
    .filter(([, count]) => count >= 0.5)
    .map(([id, count]) => {
      const set = store.current.wanted.find((one) => one.id === id)
      return countWords(count, set && known(set.type) ? TYPE_WORDS[set.type] : 'items')
    })
    .join(' and '),
)
const closing = computed(() => {
  const planned = props.full.plan.options.filter((option) => option.standing === 'plan' && option.closes[0] !== null)
  const first = planned.sort((one, other) => Date.parse(one.closes[0]!) - Date.parse(other.closes[0]!))[0]
  return first ? `${first.title}: ${closingWords(first.closes, props.now, context.value.zone).words}` : null
})
const atOpening = computed(() => {
  const { opening } = waiting.value
  return opening && opening.money >= WORTH_SAYING ? `Until the shop opens: ${money(opening.money)}.` : null
})
const details = computed(() =>
  [
    items.value ? ` (${money(waiting.value.money)})` : '',
    closing.value ? `. ${closing.value}.` : '.',
    atOpening.value ? ` ${atOpening.value}` : '',
  ].join(''),
)
</script>

<template>
  <p v-if="waiting.money >= WORTH_SAYING" class="text-[14.5px]" data-test="waiting">
    <strong>Waiting until tomorrow</strong>
    costs about
    <strong>{{ items || money(waiting.money) }}</strong>
    <span>{{ details }}</span>
  </p>
</template>
