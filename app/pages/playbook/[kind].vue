<script setup lang="ts">
import { FAMILY_WORDS } from '~~/core/playbook/family-words'
import type { RouteKind } from '~~/core/playbook/kinds/route-kind'
import { genericTitle } from '~~/core/playbook/periods'

/** One kind of route: its words, figures, mechanism and run sheet, changed in the draft. */
const route = useRoute()
const session = useSessionStore()
const playbooks = usePlaybookStore()
const drafts = useDraftStore()
const isMine = computed(() => session.may('playbook'))
const trouble = ref<string | null>(null)
async function load() {
  trouble.value = null
  try {
    await playbooks.need()
    if (isMine.value) await drafts.load()
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
await load()
const id = computed(() => String(route.params.kind))
const kept = computed(() => drafts.drafted?.kinds.find((kind) => kind.id === id.value) ?? null)
const isShipped = ref(true)
const draft = ref<RouteKind | null>(null)
/** what is edited as JSON: how the route works, which only the engine reads */
const MECHANISM = [
  'reads',
  'types',
  'losses',
  'keeps',
  'brings',
  'gates',
  'window',
  'by',
  'effects',
  'nested',
  'holds',
] as const
const mechanism = ref('')
async function reset() {
  draft.value = kept.value ? structuredClone(toRaw(kept.value)) : null
  mechanism.value = kept.value
    ? JSON.stringify(Object.fromEntries(MECHANISM.map((field) => [field, kept.value![field]])), null, 2)
    : ''
  const { shippedKinds } = await import('~~/core/playbook/up-to-date')
  isShipped.value = shippedKinds().some((kind) => kind.id === id.value)
}
watch(kept, reset, { immediate: true })

const { send, problem, error } = useSending()
const faults = computed(() => error.value?.fields ?? [])
const jsonFault = computed(() => {
  try {
    JSON.parse(mechanism.value)
    return null
  } catch (thrown) {
    return (thrown as Error).message
  }
})
const sheet = computed({
  get: () => ({ ...draft.value!.sheet, aftercare: draft.value!.aftercare }),
  set: ({ aftercare, ...lists }) => {
    draft.value!.sheet = lists
    draft.value!.aftercare = aftercare
  },
})
const title = computed(() => (kept.value ? genericTitle(kept.value) : id.value))

async function save() {
  if (!draft.value || jsonFault.value !== null) return
  const kind = { ...draft.value, ...(JSON.parse(mechanism.value) as object) } as RouteKind
  if (await send(() => drafts.change({ what: 'kind', kind }))) tellDone('Kept in the draft.')
}
async function copy() {
  const taken = new Set(drafts.drafted?.kinds.map((kind) => kind.id))
  const at = Array.from({ length: 99 }, (_, n) => `${id.value}-own${n === 0 ? '' : n + 1}`.slice(-60)).find(
    (one) => !taken.has(one),
  )
  if (!at || !kept.value) return
  const kind = { ...structuredClone(toRaw(kept.value)), id: at, title: `${kept.value.title} (ours)`.slice(0, 120) }
  if (await send(() => drafts.change({ what: 'kind', kind }))) await navigateTo(`/playbook/${at}`)
}
async function remove() {
  if (await send(() => drafts.change({ what: 'remove', kind: id.value }))) await navigateTo('/playbook')
}
const drop = () => send(() => drafts.change({ what: 'drop', kind: id.value }))
const asShipped = () => send(() => drafts.change({ what: 'shipped', kind: id.value }))
const NUMBERS = [
  {
    label: 'Chance that it works, 0 to 1',
    get: () => draft.value!.prior.chance,
    set: (is: number) => (draft.value!.prior.chance = is),
  },
  {
    label: 'Worth so many runs',
    get: () => draft.value!.prior.weight,
    set: (is: number) => (draft.value!.prior.weight = is),
  },
  {
    label: 'Finds of what is there, 0 to 1',
    get: () => draft.value!.finds.usual,
    set: (is: number) => (draft.value!.finds.usual = is),
  },
  {
    label: 'Hands-on minutes',
    get: () => draft.value!.time.handsOn,
    set: (is: number) => (draft.value!.time.handsOn = is),
  },
  {
    label: 'Waiting minutes',
    get: () => draft.value!.time.waiting,
    set: (is: number) => (draft.value!.time.waiting = is),
  },
  {
    label: 'More waiting for each gigabyte',
    get: () => draft.value!.time.waitingPerGigabyte,
    set: (is: number) => (draft.value!.time.waitingPerGigabyte = is),
  },
  {
    label: 'Price of looking',
    get: () => draft.value!.money.look,
    set: (is: number) => (draft.value!.money.look = is),
  },
  { label: 'Price of taking', get: () => draft.value!.money.take, set: (is: number) => (draft.value!.money.take = is) },
]
const numberOf = (typed: string) => (typed.trim() === '' ? Number.NaN : Number(typed.replace(',', '.')))
useHead({ title: () => title.value })
</script>

<template>
  <div v-if="trouble" class="p-10"><ErrorNote :words="trouble" @again="load" /></div>
  <div v-else-if="!kept || !draft" class="p-10">
    <h1 class="text-xl">There is no such kind of route</h1>
    <NuxtLink to="/playbook" class="underline decoration-dotted">To the playbook</NuxtLink>
  </div>
  <form v-else class="mx-auto max-w-[1180px] px-6 py-4" @submit.prevent="save">
    <NuxtLink to="/playbook" class="text-[14.5px] underline decoration-dotted">← Playbook</NuxtLink>
    <div class="flex flex-wrap items-baseline gap-x-5">
      <h1 class="text-[26px]">{{ title }}</h1>
      <p class="text-soft">
        {{ FAMILY_WORDS[kept.family] }},
        <span class="figure text-[13px]">{{ kept.id }}</span>
      </p>
      <NuxtLink
        v-if="session.may('work')"
        :to="`/ledger/kinds/${kept.id}`"
        class="text-[14.5px] underline decoration-dotted"
      >
        what the odds have learned
      </NuxtLink>
    </div>
    <ClashList :kind="kept.id" :clashes="drafts.clashes" class="mt-3" @settled="reset" />
    <div v-if="faults.length > 0" role="alert" class="mt-3 border-l-4 border-russet bg-sheet p-3" data-test="faults">
      <p class="font-bold">This cannot be kept:</p>
      <ul class="list-disc pl-5 text-[15px]">
        <li v-for="fault in faults" :key="fault.path + fault.message">
          <span class="figure text-[13px]">{{ fault.path.replace(/^kind\./, '') }}</span>
          {{ fault.message }}
        </li>
      </ul>
    </div>
    <p v-if="problem" role="alert" class="mt-3 text-russet-ink">{{ problem }}</p>
    <fieldset :disabled="!isMine" class="mt-4 grid gap-x-12 gap-y-5 desk:grid-cols-2">
      <div class="space-y-3">
        <label class="block text-[15px] font-bold">
          Title
          <input v-model="draft.title" class="field font-normal" maxlength="120" />
          <span class="text-[13.5px] font-normal text-soft">
            {copy} stands for the copy’s own words, {device} for the device’s
          </span>
        </label>
        <label class="block text-[15px] font-bold">
          What it does
          <textarea v-model="draft.says" rows="2" class="field font-normal" maxlength="400" />
        </label>
        <label class="block text-[15px] font-bold">
          Reason for its odds
          <textarea v-model="draft.prior.note" rows="2" class="field font-normal" maxlength="400" />
        </label>
      </div>
      <div class="grid grid-cols-2 gap-x-6 gap-y-2.5">
        <label v-for="one in NUMBERS" :key="one.label" class="block text-[15px]">
          {{ one.label }}
          <input
            class="field figure text-[14px]"
            inputmode="decimal"
            :value="one.get()"
            @change="(event) => one.set(numberOf((event.target as HTMLInputElement).value))"
          />
        </label>
      </div>
    </fieldset>
    <section aria-labelledby="sheet" class="mt-6">
      <h2 id="sheet" class="mb-1 text-[19px]">Run sheet</h2>
      <SheetEditor v-if="isMine" :key="kept.id" v-model="sheet" />
      <ol v-else class="list-decimal pl-6 text-[15px]">
        <li v-for="step in kept.sheet.steps" :key="step">{{ step }}</li>
      </ol>
    </section>
    <details class="mt-6">
      <summary class="min-h-[28px] cursor-pointer text-[19px] font-head font-semibold">How it works</summary>
      <p class="mb-2 max-w-[80ch] text-[15px] text-soft">
        Which copies it reads, for which data and losses, its conditions with their odds, its window, what it destroys,
        and the holds that protect it, as the playbook file has them.
      </p>
      <LazyTextEditor v-model="mechanism" label="Mechanism as JSON" language="json" :is-read-only="!isMine" />
      <p v-if="jsonFault" role="alert" class="text-[15px] text-russet-ink">This is not JSON: {{ jsonFault }}</p>
    </details>
    <p v-if="isMine" class="sticky bottom-0 mt-6 flex flex-wrap gap-3 border-t border-line bg-paper py-3">
      <button type="submit" class="main-action" :disabled="jsonFault !== null" data-test="keep-kind">
        Keep in the draft
      </button>
      <NuxtLink to="/playbook" class="quiet-action">To the draft</NuxtLink>
      <button v-if="drafts.changed.has(kept.id)" type="button" class="quiet-action" @click="drop">
        Take it out of the draft
      </button>
      <button type="button" class="quiet-action" @click="copy">Copy as a kind of our own</button>
      <button v-if="isShipped" type="button" class="quiet-action" @click="asShipped">As shipped</button>
      <button v-else type="button" class="quiet-action" @click="remove">Remove this kind</button>
    </p>
  </form>
</template>
