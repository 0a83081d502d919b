<script setup lang="ts">
import { heldFor } from '~~/core/cases/shape/custody'
import { known } from '~~/core/cases/shape/fact'
import { copyWords, deviceWords } from '~~/core/cases/telling/words'

/** What a client hands over the counter, each with its state, for the receipt. */
const emit = defineEmits<{ close: [] }>()
const store = useOpenCaseStore()
const shop = useHandoverStore()

const rowOf = (part: string | null, words: string, isTaken: boolean) => ({
  part,
  words,
  isTaken,
  serial: '',
  condition: '',
  accessories: '',
})
const held = new Set(heldFor(store.asItIs.things).map(({ part }) => part))
const rows = reactive([
  ...store.asItIs.devices.filter(({ id }) => !held.has(id)).map((one) => rowOf(one.id, deviceWords(one), true)),
  ...store.asItIs.copies
    .filter(({ id, kind }) => !held.has(id) && ['medium', 'sim-card', 'disk-image'].includes(kind))
    .map((one) => rowOf(one.id, copyWords(one).replace(/^the /, ''), false)),
])
const { name } = store.asItIs.client
const person = ref(known(name) ? name : '')
const place = ref('')
const add = () => rows.push(rowOf(null, '', true))
const taken = computed(() => rows.filter((row) => row.isTaken && row.words.trim() !== ''))

async function done() {
  const things = taken.value.map(({ part, words, serial, condition, accessories }) => ({
    part,
    words,
    serial,
    condition,
    accessories,
  }))
  if (await shop.act({ do: 'receive', things, place: place.value, person: person.value })) emit('close')
}
</script>

<template>
  <ShopDialog
    title="Take in"
    verb="Take in and make the receipt"
    :is-busy="shop.isBusy"
    :is-ready="taken.length > 0"
    is-wide
    @close="emit('close')"
    @done="done"
  >
    <fieldset v-for="(row, at) in rows" :key="at" class="border-t border-line pt-2">
      <legend class="sr-only">{{ row.words || 'another thing' }}</legend>
      <label class="flex items-center gap-2.5 font-bold">
        <input v-model="row.isTaken" type="checkbox" class="size-4 accent-[var(--russet)]" />
        <span v-if="row.part !== null">{{ row.words }}</span>
        <input
          v-else
          v-model="row.words"
          class="field"
          aria-label="What it is"
          placeholder="what it is"
          maxlength="160"
        />
      </label>
      <div v-if="row.isTaken" class="mt-1.5 grid gap-3 md:grid-cols-[150px_1fr_1fr]">
        <FormField v-model="row.serial" label="Serial number" />
        <FormField v-model="row.condition" label="Condition" hint="scratches, cracks, what does not work" />
        <FormField v-model="row.accessories" label="Accessories" hint="case, charger, card left in it" />
      </div>
    </fieldset>
    <button type="button" class="min-h-[24px] text-[14px] underline decoration-dotted" @click="add">
      something else …
    </button>
    <div class="grid gap-3 border-t border-line pt-3 md:grid-cols-2">
      <FormField v-model="person" label="Brought by" />
      <FormField v-model="place" label="Place in the shop" hint="drawer, shelf or bench" />
    </div>
  </ShopDialog>
</template>
