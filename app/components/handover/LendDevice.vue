<script setup lang="ts">
import { known } from '~~/core/cases/shape/fact'

/** A device of the shop that the client has meanwhile. */
const emit = defineEmits<{ close: [] }>()
const store = useOpenCaseStore()
const shop = useHandoverStore()
const { name } = store.asItIs.client
const words = ref('')
const serial = ref('')
const condition = ref('')
const person = ref(known(name) ? name : '')
async function done() {
  const write = {
    do: 'lend',
    words: words.value,
    serial: serial.value,
    condition: condition.value,
    person: person.value,
  } as const
  if (await shop.act(write)) emit('close')
}
</script>

<template>
  <ShopDialog
    title="Lend a device"
    verb="Lend it"
    :is-busy="shop.isBusy"
    :is-ready="words.trim() !== '' && person.trim() !== ''"
    @close="emit('close')"
    @done="done"
  >
    <FormField v-model="words" label="Device" />
    <FormField v-model="serial" label="Serial number" />
    <FormField v-model="condition" label="Condition" />
    <FormField v-model="person" label="To whom" />
  </ShopDialog>
</template>
