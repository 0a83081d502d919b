<script setup lang="ts">
/** One price that is due, for a run or for anything else. */
const emit = defineEmits<{ close: [] }>()
const store = useOpenCaseStore()
const shop = useHandoverStore()
const run = ref('')
const words = ref('')
const amount = ref<number | null>(null)
const suggested = ref(0)
const playbooks = usePlaybookStore()
const ended = computed(() => store.asItIs.runs.filter((one) => one.ended !== null))
watch(run, (id) => {
  const own = ended.value.find((one) => one.id === id)
  if (!own) return
  words.value = own.title
  // Looking has its price; taking has one more, where something came back.
  const money = playbooks.playbook?.kinds.find((kind) => kind.id === own.kind)?.money
  const isTaken = own.results.some(({ back }) => back > 0)
  suggested.value = money ? money.look + (isTaken ? money.take : 0) : 0
  if (suggested.value > 0) amount.value = suggested.value
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
    <FormField v-model="words" label="For what" />
    <AmountField :key="suggested" v-model="amount" label="Price with tax" />
  </ShopDialog>
</template>
