<script setup lang="ts">
import { FullPlan } from '~~/core/ranking/situation/plan-shape'

/** The price that the shop quotes, begun from the plan. */
const emit = defineEmits<{ close: [] }>()
const store = useOpenCaseStore()
const shop = useHandoverStore()
const playbooks = usePlaybookStore()
const full = shallowRef<FullPlan | null>(null)
const { quote } = store.asItIs.money
/** The shop's own prices, where it has a price list. */
const own = computed(() => {
  const { looking, taking } = playbooks.playbook?.shop.prices ?? {}
  return looking === undefined && taking === undefined ? null : { looking: looking ?? 0, taking: taking ?? 0 }
})
/**
 * With a price list: looking, and taking what the whole plan would bring, with what laboratories and parts cost. Without one: work
 * and prices up to the first success, and of the whole plan.
 */
const planned = computed(() => {
  const plan = full.value?.plan
  if (plan && own.value) {
    const { looking, taking } = own.value
    return { low: looking, high: Math.ceil(looking + taking + (plan.expected.stop?.money[2] ?? 0)) }
  }
  const minute = playbooks.playbook?.shop.weights.handsOnMinute ?? 0
  const sum = (of: { handsOn: readonly number[]; money: readonly number[] } | null | undefined, at: number) =>
    of ? Math.ceil((of.handsOn[at]! * minute + of.money[at]!) / 5) * 5 : null
  return { low: sum(plan?.expected.first, 0), high: sum(plan?.expected.stop, 2) }
})
const low = ref<number | null>(quote?.low ?? planned.value.low)
const high = ref<number | null>(quote?.high ?? planned.value.high)
const nothingBack = ref<number | null>(quote?.nothingBack ?? null)
const note = ref(quote?.note ?? '')
onMounted(async () => {
  // Without the plan, the figures are typed.
  await playbooks.need().catch(() => undefined)
  full.value = await api(FullPlan, 'GET', shop.path('/plan')).catch(() => null)
  nothingBack.value ??= own.value?.looking ?? 0
  low.value ??= planned.value.low
  high.value ??= planned.value.high
})
async function done() {
  const write = {
    do: 'quote',
    low: low.value!,
    high: high.value!,
    nothingBack: nothingBack.value!,
    note: note.value,
  } as const
  if (await shop.act(write)) emit('close')
}
</script>

<template>
  <ShopDialog
    title="Quote"
    verb="Record the quote"
    :is-busy="shop.isBusy"
    :is-ready="low !== null && high !== null && nothingBack !== null"
    @close="emit('close')"
    @done="done"
  >
    <p v-if="planned.high !== null" class="text-[14.5px] text-soft">
      {{ own ? 'By the price list, and what the plan itself costs:' : 'The plan’s own work and prices come to' }}
      {{ planned.low ?? 0 }} to {{ planned.high }}.
    </p>
    <AmountField :key="`low ${full !== null}`" v-model="low" label="From" />
    <AmountField :key="`high ${full !== null}`" v-model="high" label="To" />
    <AmountField :key="`nothing ${full !== null}`" v-model="nothingBack" label="Due when nothing comes back" />
    <FormField v-model="note" label="Note" />
  </ShopDialog>
</template>
