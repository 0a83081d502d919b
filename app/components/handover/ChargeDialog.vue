<script setup lang="ts">
import { priceWords } from '~~/core/local/numbers'
import { PRICE_NAMES, PRICE_WORDS, priceOf, pricedKinds, type PriceName } from '~~/core/playbook/prices'

/** One price that is due, for a run, a line of the price list, or anything else. */
const emit = defineEmits<{ close: [] }>()
const store = useOpenCaseStore()
const shop = useHandoverStore()
const run = ref('')
const words = ref('')
const amount = ref<number | null>(null)
const suggested = ref(0)
const playbooks = usePlaybookStore()
const session = useSessionStore()
onMounted(() => void playbooks.need().catch(() => undefined))
const ended = computed(() => store.asItIs.runs.filter((one) => one.ended !== null))
watch(run, (id) => {
  const own = ended.value.find((one) => one.id === id)
  if (!own) return
  words.value = own.title
  // Looking has its price; taking has one more, where something came back.
  const { playbook } = playbooks
  const price = playbook && pricedKinds(playbook).find((kind) => kind.id === own.kind)?.money
  const isTaken = own.results.some(({ back }) => back > 0)
  suggested.value = price ? price.look + (isTaken ? price.take : 0) : 0
  if (suggested.value > 0) amount.value = suggested.value
})
const line = ref<PriceName | ''>('')
const list = computed(() => {
  const { playbook } = playbooks
  return PRICE_NAMES.flatMap((name) => {
    const price = playbook && priceOf(playbook, name)
    return price ? [{ name, price, words: PRICE_WORDS[name] }] : []
  })
})
watch(line, (name) => {
  const chosen = list.value.find((one) => one.name === name)
  if (!chosen) return
  words.value = chosen.words
  amount.value = suggested.value = chosen.price
})
async function done() {
  if (await shop.act({ do: 'charge', run: run.value || null, words: words.value, amount: amount.value! })) emit('close')
}
</script>

<template>
  <ShopDialog
    title="Charge"
    verb="Charge"
    :is-busy="shop.isBusy"
    :is-ready="words.trim() !== '' && (amount ?? 0) > 0"
    @close="emit('close')"
    @done="done"
  >
    <label v-if="ended.length > 0" class="block">
      <span class="text-[15px] font-bold">For which run</span>
      <select v-model="run" class="field mt-1">
        <option value="">none of them</option>
        <option v-for="one in ended" :key="one.id" :value="one.id">{{ one.title }}</option>
      </select>
    </label>
    <label v-if="list.length > 0" class="block">
      <span class="text-[15px] font-bold">From the price list</span>
      <select v-model="line" class="field mt-1">
        <option value="">nothing of it</option>
        <option v-for="one in list" :key="one.name" :value="one.name">
          {{ one.words }}, {{ priceWords(one.price, session.shop.currency) }}
        </option>
      </select>
    </label>
    <FormField v-model="words" label="For what" />
    <AmountField :key="suggested" v-model="amount" label="Price with tax" />
  </ShopDialog>
</template>
