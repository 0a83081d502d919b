<script setup lang="ts">
import type { Thing } from '~~/core/cases/shape/custody'

/** A loan device comes back: how it is, and whether it was wiped. */
const props = defineProps<{ thing: Thing }>()
const emit = defineEmits<{ close: [] }>()
const shop = useHandoverStore()
const condition = ref('')
const isWiped = ref(false)
async function done() {
  if (
    await shop.act({ do: 'take-loan-back', thing: props.thing.id, condition: condition.value, isWiped: isWiped.value })
  )
    emit('close')
}
</script>

<template>
  <ShopDialog
    :title="`${thing.words} is back`"
    verb="Take it back"
    :is-busy="shop.isBusy"
    @close="emit('close')"
    @done="done"
  >
    <FormField v-model="condition" label="Condition" />
    <label class="flex min-h-[30px] items-center gap-2.5">
      <input v-model="isWiped" type="checkbox" class="size-4 accent-[var(--russet)]" />
      It was wiped: nothing of the client’s is left on it.
    </label>
  </ShopDialog>
</template>
