<script setup lang="ts">
import type { Shop, Weights } from '~~/core/playbook/shop'

/** The costs that the order of a plan weighs against each other, in the shop's currency. */
defineProps<{ shop: Shop; isMine: boolean }>()
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

async function keep(which: keyof Weights, says: string, is: number) {
  failing.value = which
  if (!(await send(() => playbooks.amend({ what: 'weight', which, is })))) return
  failing.value = null
  tellDone(`${says}: ${is} from now on.`)
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
            @keep="(is) => keep(which, says, is)"
            @undo="failing = null"
          />
          <span v-else class="figure">{{ shop.weights[which] }}</span>
          <span class="w-[44px] text-soft">{{ isTimes ? 'times' : shop.currency }}</span>
        </div>
        <p v-if="failing === which" role="alert" class="text-right text-[14px] font-bold text-russet-ink">
          {{ problemOf('is') ?? problem }}
        </p>
      </li>
    </ul>
  </section>
</template>
