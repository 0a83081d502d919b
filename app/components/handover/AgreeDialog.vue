<script setup lang="ts">
import { AGREED_HOW, AGREED_TO, agreementTo, type AgreedHow, type AgreedTo } from '~~/core/cases/shape/agreement'
import { openingStop } from '~~/core/cases/shape/permission'
import { askingOf } from '~~/core/cases/telling/asking'
import { known } from '~~/core/cases/shape/fact'
import { agreementWords } from '~~/core/handover/agreement-words'
import { AGREED_HOW_WORDS, AGREED_WORDS } from '~~/core/handover/words'
import type { Signature } from '~~/core/handover/signature'

/** The words that a client agrees to, read on this screen and signed here, on paper, or said. */
const emit = defineEmits<{ close: [] }>()
const store = useOpenCaseStore()
const shop = useHandoverStore()
const playbooks = usePlaybookStore()
const before = store.asItIs
const ofCase = computed(() => store.asItIs)
const what = ref<AgreedTo[]>(agreementTo(before.agreements, 'look-through') ? [] : ['look-through'])
const isOwn = before.authority.basis === 'own' || !known(before.authority.basis)
const agreed = isOwn ? before.client.name : before.authority.agreedBy
const person = ref(known(agreed) ? agreed : '')
const behalf = ref(!isOwn && known(before.authority.whose) ? before.authority.whose : '')
const how = ref<AgreedHow>('signed-here')
const limit = ref<number | null>(known(before.limits.money) ? before.limits.money : null)
const signature = ref<Signature | null>(null)
const paper = ref<number | null>(null)
const isPriced = computed(() => what.value.includes('price'))
const words = computed(() =>
  playbooks.playbook && what.value.length > 0
    ? agreementWords(
        AGREED_TO.filter((one) => what.value.includes(one)),
        ofCase.value,
        playbooks.playbook.shop,
        isPriced.value ? limit.value : null,
      )
    : '',
)
/** Whose data it is stands in the words, so that it is asked first. */
const asked = computed(() => (openingStop(ofCase.value)?.asks ?? []).filter((fact) => fact.startsWith('authority.')))
const isReady = computed(
  () =>
    words.value !== '' &&
    asked.value.length === 0 &&
    person.value.trim() !== '' &&
    (!isPriced.value || limit.value !== null) &&
    (how.value === 'in-words' || (how.value === 'on-paper' ? paper.value !== null : signature.value !== null)),
)

async function scanned(event: Event) {
  const [file] = (event.target as HTMLInputElement).files ?? []
  if (file) paper.value = await shop.attach(file, 'paper')
}

async function done() {
  let signed = how.value === 'on-paper' ? paper.value : null
  if (how.value === 'signed-here') {
    signed = await shop.sign(signature.value!, person.value)
    if (signed === null) return
  }
  const isDone = await shop.act({
    do: 'agree',
    what: what.value,
    person: person.value,
    behalf: behalf.value,
    how: how.value,
    signature: signed,
    limit: isPriced.value ? limit.value : null,
    text: words.value,
  })
  if (isDone) emit('close')
}
/** For a result the client signs on the screen for two. */
const ASKED = AGREED_TO.filter((one) => one !== 'result')
</script>

<template>
  <ShopDialog
    title="What the client agrees to"
    verb="Record the agreement"
    :is-busy="shop.isBusy"
    :is-ready="isReady"
    is-wide
    @close="emit('close')"
    @done="done"
  >
    <fieldset class="grid gap-x-6 md:grid-cols-2">
      <legend class="sr-only">What</legend>
      <label v-for="one in ASKED" :key="one" class="flex min-h-[30px] items-center gap-2.5">
        <input v-model="what" type="checkbox" :value="one" class="size-4 accent-[var(--russet)]" />
        {{ AGREED_WORDS[one] }}
      </label>
    </fieldset>
    <dl v-if="asked.length > 0" class="border-l-4 border-russet pl-3" data-words data-test="asked-first">
      <div v-for="fact in asked" :key="fact" class="grid grid-cols-[150px_minmax(0,1fr)] gap-3 py-0.5">
        <dt class="pt-1 text-[15px] text-soft">{{ askingOf(fact)?.label }}</dt>
        <dd><FactWord :path="fact" /></dd>
      </div>
    </dl>
    <AmountField v-if="isPriced" v-model="limit" label="At most" />
    <p class="whitespace-pre-line border-l-4 border-held bg-sheet p-3 text-[16px]" data-test="agreement-words">
      {{ words || 'Choose what is agreed to.' }}
    </p>
    <div class="grid gap-3 md:grid-cols-2">
      <FormField v-model="person" label="Who agrees" />
      <FormField v-model="behalf" label="For" hint="whose data it is, where it is not their own" />
    </div>
    <fieldset class="flex flex-wrap gap-x-6">
      <legend class="sr-only">How</legend>
      <label v-for="one in AGREED_HOW" :key="one" class="flex min-h-[30px] items-center gap-2.5">
        <input v-model="how" type="radio" :value="one" class="size-4 accent-[var(--russet)]" />
        {{ AGREED_HOW_WORDS[one] }}
      </label>
    </fieldset>
    <SignaturePad v-if="how === 'signed-here'" v-model="signature" label="Signature" />
    <label v-else-if="how === 'on-paper'" class="quiet-action cursor-pointer">
      {{ paper === null ? 'Picture or PDF of the signed paper …' : '✓ the paper is added' }}
      <input type="file" accept="image/*,application/pdf" class="sr-only" @change="scanned" />
    </label>
  </ShopDialog>
</template>
