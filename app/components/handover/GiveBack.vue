<script setup lang="ts">
import type { Signature } from '~~/core/handover/signature'
import { heldFor } from '~~/core/cases/shape/custody'
import { known } from '~~/core/cases/shape/fact'
import { accountOf } from '~~/core/cases/shape/money'
import { priceWords } from '~~/core/handover/sheet-parts'

/** Things go back to a named person, against the receipt or another proof. */
const emit = defineEmits<{ close: [] }>()
const store = useOpenCaseStore()
const shop = useHandoverStore()
const session = useSessionStore()
const held = heldFor(store.asItIs.things)
const chosen = ref(held.map(({ id }) => id))
const { name } = store.asItIs.client
const person = ref(known(name) ? name : '')
const against = ref<'receipt' | 'identity' | 'known-here'>('receipt')
const code = ref('')
const condition = ref('')
const note = ref('')
const signature = ref<Signature | null>(null)
const open = computed(() => accountOf(store.asItIs.money).open)
const isReady = computed(
  () =>
    chosen.value.length > 0 && person.value.trim() !== '' && (against.value !== 'receipt' || code.value.trim() !== ''),
)

async function done() {
  const signed = signature.value ? await shop.sign(signature.value, person.value) : null
  if (signature.value && signed === null) return
  const isDone = await shop.act({
    do: 'give-back',
    things: chosen.value,
    person: person.value,
    against: against.value,
    code: code.value,
    condition: condition.value,
    signature: signed,
    note: note.value,
  })
  if (isDone) emit('close')
}
</script>

<template>
  <ShopDialog
    title="Give back"
    verb="Give back and make the receipt"
    :is-busy="shop.isBusy"
    :is-ready="isReady"
    @close="emit('close')"
    @done="done"
  >
    <p v-if="open > 0" class="border-l-4 border-russet pl-3" role="status">
      ▲ {{ priceWords(open, session.shop.currency) }} is still open.
    </p>
    <fieldset>
      <legend class="text-[15px] font-bold">What</legend>
      <label v-for="thing in held" :key="thing.id" class="flex min-h-[30px] items-center gap-2.5">
        <input v-model="chosen" type="checkbox" :value="thing.id" class="size-4 accent-[var(--russet)]" />
        {{ thing.words }}
      </label>
    </fieldset>
    <FormField v-model="person" label="To whom" />
    <fieldset>
      <legend class="text-[15px] font-bold">Against</legend>
      <label class="flex min-h-[30px] items-center gap-2.5">
        <input v-model="against" type="radio" value="receipt" class="size-4 accent-[var(--russet)]" />
        the receipt, with its code
      </label>
      <label class="flex min-h-[30px] items-center gap-2.5">
        <input v-model="against" type="radio" value="identity" class="size-4 accent-[var(--russet)]" />
        a document that shows who they are
      </label>
      <label class="flex min-h-[30px] items-center gap-2.5">
        <input v-model="against" type="radio" value="known-here" class="size-4 accent-[var(--russet)]" />
        nothing: we know them
      </label>
    </fieldset>
    <FormField v-if="against === 'receipt'" v-model="code" label="Code of the receipt" hint="typed or scanned" />
    <FormField v-model="condition" label="Condition at the return" />
    <FormField v-model="note" label="Note" />
    <SignaturePad v-model="signature" label="Received, signature" />
  </ShopDialog>
</template>
