<script setup lang="ts">
import type { Thing } from '~~/core/cases/shape/custody'

/** Where a thing is now; and, where nobody collects it, what became of it. */
const props = defineProps<{ thing: Thing; mayDispose: boolean }>()
const emit = defineEmits<{ close: [] }>()
const store = useOpenCaseStore()
const shop = useHandoverStore()
const place = ref('')
const note = ref('')
const isWiped = ref(false)
const isDisposing = ref(false)
const canDispose = computed(() => props.mayDispose && store.asItIs.state.name === 'uncollected')
async function done() {
  const thing = props.thing.id
  const isDone = isDisposing.value
    ? await shop.act({ do: 'dispose', thing, isWiped: isWiped.value, note: note.value })
    : await shop.act({ do: 'move', thing, place: place.value, note: note.value })
  if (isDone) emit('close')
}
</script>

<template>
  <ShopDialog
    :title="isDisposing ? `What becomes of ${thing.words}` : `Where is ${thing.words} now?`"
    :verb="isDisposing ? 'Record it' : 'Move'"
    :is-busy="shop.isBusy"
    :is-ready="isDisposing ? note.trim() !== '' : place.trim() !== ''"
    @close="emit('close')"
    @done="done"
  >
    <label v-if="canDispose" class="flex min-h-[30px] items-center gap-2.5">
      <input v-model="isDisposing" type="checkbox" class="size-4 accent-[var(--russet)]" />
      It was not collected, and is disposed of
    </label>
    <FormField v-if="!isDisposing" v-model="place" label="Place" hint="drawer, bench, the laboratory’s name" />
    <label v-else class="flex min-h-[30px] items-center gap-2.5">
      <input v-model="isWiped" type="checkbox" class="size-4 accent-[var(--russet)]" />
      The medium was wiped
    </label>
    <FormField v-model="note" :label="isDisposing ? 'What became of it, and who decided that' : 'Note'" />
  </ShopDialog>
</template>
