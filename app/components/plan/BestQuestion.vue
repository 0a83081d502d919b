<script setup lang="ts">
import { askingOf } from '~~/core/cases/telling/asking'
import { valueWords } from '~~/core/cases/telling/answering'
import type { FullPlan } from '~~/core/ranking/situation/plan-shape'
import { firstRouteOf } from '~~/core/ranking/situation/plan-shape'

/** The question most worth asking, what each answer would do to the plan, and one key for each answer. */
const props = defineProps<{ full: FullPlan; isQuiet?: boolean }>()
const store = useOpenCaseStore()
const context = useAnswerContext()
const money = useMoney()

const question = computed(() => props.full.plan.questions[0] ?? null)
const more = computed(() => props.full.plan.questions.length - 1)
const first = computed(() => firstRouteOf(props.full.plan)?.id ?? null)
const titles = computed(() => new Map(props.full.plan.options.map((option) => [option.id, option.title])))
const answers = computed(() => {
  const asked = question.value
  if (!asked) return []
  return Object.entries(asked.answers).map(([value, share], index) => {
    const lead = asked.leads[value] ?? null
    return {
      value,
      key: String(index + 1),
      words: answerWords(asked.fact, value),
      share,
      does:
        lead === null
          ? 'nothing is worth trying then'
          : lead === first.value
            ? 'the first route stays'
            : titles.value.has(lead)
              ? `first then: ${titles.value.get(lead)}`
              : 'opens a route of its own',
      says: Object.hasOwn(asked.sets, value),
    }
  })
})

function answerWords(fact: string, value: string): string {
  if (value === 'yes' || value === 'no')
    return askingOf(fact)?.control.by === 'choice' ? (valueWords(fact, value, context.value) ?? value) : value
  if (fact.endsWith('.password') && value === 'opened') return 'yes, they know it'
  return valueWords(fact, value, context.value) ?? value
}

function answer(value: string) {
  const asked = question.value
  if (!asked || !Object.hasOwn(asked.sets, value)) return
  store.set([{ fact: asked.fact, is: asked.sets[value] }])
}

/** The client does not know: the case remembers that it was asked, and it is not asked again. */
function notKnown() {
  const asked = question.value
  if (!asked) return
  store.set([{ fact: 'notKnown', is: [...store.current.notKnown.filter((one) => one !== asked.fact), asked.fact] }])
}

const nth = (index: number) => () => {
  const one = answers.value[index]
  if (one) answer(one.value)
}
const ANSWER = 'answer the question (1 to 5)'
useSingleKeys({
  1: [ANSWER, nth(0)],
  2: [ANSWER, nth(1)],
  3: [ANSWER, nth(2)],
  4: [ANSWER, nth(3)],
  5: [ANSWER, nth(4)],
  '?': ['answer the question: not known', notKnown],
})
</script>

<template>
  <section v-if="question" aria-label="Worth asking" data-test="question">
    <p class="text-[14px] text-soft">
      Worth asking now
      <span v-if="question.gain >= 0.5" class="text-ink">· {{ money(question.gain) }} to know</span>
    </p>
    <h2 class="mt-0.5 leading-tight" :class="isQuiet ? 'text-[16px]' : 'text-[18px]'">“{{ question.asks }}”</h2>
    <ul class="mt-2">
      <li v-for="one in answers" :key="one.value">
        <button type="button" class="answer" :disabled="!one.says" data-test="answer" @click="answer(one.value)">
          <kbd class="key-cap">{{ one.key }}</kbd>
          <span class="min-w-0 flex-1">
            <span class="font-bold">{{ one.words }}</span>
            <span class="block text-[13px] text-soft">{{ one.does }}</span>
          </span>
          <span class="figure font-bold">
            {{ percent(one.share) }}
            <span class="sr-only">expected back</span>
          </span>
        </button>
      </li>
      <li>
        <button type="button" class="answer" data-test="answer-unknown" @click="notKnown">
          <KeyCap shipped="?" />
          <span class="flex-1 text-soft">they cannot say</span>
        </button>
      </li>
    </ul>
    <p v-if="more > 0" class="mt-1 text-[13px] text-soft">
      {{ more === 1 ? '1 more question would help.' : `${more} more questions would help.` }}
    </p>
  </section>
</template>

<style scoped>
.answer {
  display: flex;
  width: 100%;
  min-height: 36px;
  gap: 10px;
  align-items: baseline;
  padding: 4px 6px;
  margin: 0 -6px;
  text-align: left;
  font-size: 14.5px;
  cursor: pointer;
}
.answer:hover:not(:disabled) {
  background: var(--sheet);
}
.answer:disabled {
  cursor: default;
}
</style>
