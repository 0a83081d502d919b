<script setup lang="ts">
/** Money that changes hands; it gets a receipt with a number of its own. */
const props = defineProps<{ open: number }>()
const emit = defineEmits<{ close: [] }>()
const shop = useHandoverStore()
const kind = ref<'deposit' | 'payment' | 'refund'>(props.open > 0 ? 'payment' : 'deposit')
const amount = ref<number | null>(props.open > 0 ? props.open : null)
const way = ref<'cash' | 'card' | 'transfer'>('card')
async function done() {
  if (await shop.act({ do: 'pay', kind: kind.value, amount: amount.value!, way: way.value })) emit('close')
}
</script>

<template>
  <ShopDialog
    title="Take payment"
    verb="Record it and make the receipt"
    :is-busy="shop.isBusy"
    :is-ready="(amount ?? 0) > 0"
    @close="emit('close')"
    @done="done"
  >
    <label class="block">
      <span class="text-[15px] font-bold">What</span>
      <select v-model="kind" class="field mt-1">
        <option value="payment">payment</option>
        <option value="deposit">deposit</option>
        <option value="refund">refund to the client</option>
      </select>
    </label>
    <AmountField v-model="amount" label="Amount" />
    <label class="block">
      <span class="text-[15px] font-bold">By</span>
      <select v-model="way" class="field mt-1">
        <option value="card">card</option>
        <option value="cash">cash</option>
        <option value="transfer">bank transfer</option>
      </select>
    </label>
  </ShopDialog>
</template>
