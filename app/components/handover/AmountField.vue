<script setup lang="ts">
import { readMoney } from '~~/core/cases/telling/saying/amounts'

/** An amount of money as people type it; null while it is none. */
const props = defineProps<{ label: string; hint?: string }>()
const amount = defineModel<number | null>({ required: true })
const session = useSessionStore()
const typed = ref(amount.value === null ? '' : String(amount.value))
const problem = ref<string>()
watch(typed, (said) => {
  const read = said.trim() === '' ? null : readMoney(said)
  problem.value = read && !read.ok ? read.message : undefined
  amount.value = read?.ok ? read.amount : null
})
</script>

<template>
  <FormField
    v-model="typed"
    :label="`${props.label}, ${session.shop.currency}`"
    inputmode="decimal"
    :problem="problem"
    :hint="hint"
  />
</template>
