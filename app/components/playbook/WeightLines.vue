<script setup lang="ts">
import type { Shop, Weights } from '~~/core/playbook/shop'
import type { Weighed } from '~~/core/ranking/explain/weighed'

/** The costs that the order of a plan weighs against each other, in the shop's currency. */
const props = defineProps<{ shop: Shop; isMine: boolean }>()
const playbooks = usePlaybookStore()
const { send, problem, problemOf } = useSending()
const failing = ref<keyof Weights | null>(null)
const LINES: readonly { which: keyof Weights; says: string; isTimes?: true }[] = [
  { which: 'worth', says: 'Having everything back, for a client who names no sum' },
  { which: 'littleBudget', says: 'Of that, for a client who wants to spend little', isTimes: true },
  { which: 'usualBudget', says: 'Of that, for a client with a usual budget', isTimes: true },
  { which: 'wholeBudget', says: 'Of that, for a client who would pay whatever it takes', isTimes: true },
  { which: 'mustHave', says: 'Weight of a must-have item', isTimes: true },
  { which: 'handsOnMinute', says: 'A minute of hands-on work' },
  { which: 'waitingMinute', says: 'A minute of waiting that keeps room at the bench' },
  { which: 'dayLate', says: 'What a day later takes off their worth', isTimes: true },
  { which: 'dayOfNewerData', says: 'A day of newer data that a restore would erase' },
  { which: 'safetyCopyLeaves', says: 'Of a harm, what a good safety copy leaves', isTimes: true },
]

/** a weight that was typed and is not saved yet, with what it would change */
const trial = shallowRef<{ which: keyof Weights; says: string; is: number; cases: readonly Weighed[] } | null>(null)

async function tryOut(which: keyof Weights, says: string, is: number) {
  // Leaving the field says again what Enter has said.
  if (trial.value?.which === which && trial.value.is === is) return
  failing.value = which
  trial.value = null
  const { WeighedList } = await import('~~/core/ranking/explain/weighed')
  const weights = { ...props.shop.weights, [which]: is }
  const done = await send(async () => {
    trial.value = { which, says, is, cases: await api(WeighedList, 'POST', '/api/playbook/weigh', weights) }
  })
  if (done) failing.value = null
}
async function save() {
  if (!trial.value) return
  const { which, says, is } = trial.value
  failing.value = which
  if (!(await send(() => playbooks.amend({ what: 'weight', which, is })))) return
  failing.value = null
  trial.value = null
  tellDone(`${says}: ${is} from now on.`)
}
function undo() {
  failing.value = null
  trial.value = null
}
function effect({ next, minutes, steps, expected }: Weighed): string {
  const parts = [
    next[0] === next[1] ? null : `first ${next[1] ?? 'nothing'}, not ${next[0] ?? 'nothing'}`,
    steps[0] === steps[1] ? null : `${countOf(steps[1], 'step')}, was ${steps[0]}`,
    Math.round(expected[0] * 100) === Math.round(expected[1] * 100)
      ? null
      : `${percent(expected[1])} expected back, was ${percent(expected[0])}`,
    Math.round(minutes[0]) === Math.round(minutes[1])
      ? null
      : `${minutesWords(minutes[1])} of work, was ${minutesWords(minutes[0])}`,
  ]
  return parts.filter((part) => part !== null).join('; ') || 'the same plan'
}
</script>

<template>
  <section aria-labelledby="weights">
    <h2 id="weights" class="text-[22px]">Cost of time and money</h2>
    <p class="mt-1 max-w-[62ch] text-[15px] text-soft">
      A route is worth trying while what it is expected to bring back exceeds the cost of its time and money.
    </p>
    <ul class="mt-3 divide-y divide-line border-y border-line">
      <li v-for="{ which, says, isTimes } in LINES" :key="which" class="py-1">
        <div class="flex items-center gap-3">
          <span class="min-w-0 flex-1">{{ says }}</span>
          <NumberField
            v-if="isMine"
            :label="says"
            :value="shop.weights[which]"
            :is-wrong="failing === which"
            @keep="(is) => tryOut(which, says, is ?? Number.NaN)"
            @undo="undo"
          />
          <span v-else class="figure">{{ shop.weights[which] }}</span>
          <span class="w-[44px] text-soft">{{ isTimes ? 'times' : shop.currency }}</span>
        </div>
        <p v-if="failing === which" role="alert" class="text-right text-[14px] font-bold text-russet-ink">
          {{ problemOf(which) ?? problemOf('is') ?? problem }}
        </p>
        <div v-if="trial?.which === which" class="my-2 border-l-2 border-line pl-4 text-[14.5px]" data-test="weighed">
          <p>{{ trial.is }} would change, in three cases of the demo:</p>
          <ul>
            <li v-for="one in trial.cases" :key="one.about">
              {{ one.about }}:
              <span class="text-soft">{{ effect(one) }}</span>
            </li>
          </ul>
          <p class="mt-1.5 flex gap-3">
            <button type="button" class="quiet-action font-bold" @click="save">Save {{ trial.is }}</button>
            <button type="button" class="quiet-action" @click="undo">Cancel</button>
          </p>
        </div>
      </li>
    </ul>
  </section>
</template>
