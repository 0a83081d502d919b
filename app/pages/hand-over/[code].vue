<script setup lang="ts">
import { useEventListener, useIntervalFn } from '@vueuse/core'
import { nextWithClient } from '~~/core/handover/next'
import { titleOf } from '~~/core/cases/telling/title'

/** Everything between shop and client: what was brought, agreed, said, paid, and how it ended. */
const route = useRoute()
const store = useOpenCaseStore()
const shop = useHandoverStore()
const playbooks = usePlaybookStore()
const now = useServerNow()
const trouble = ref<string | null>(null)

async function load() {
  trouble.value = null
  try {
    await store.open(String(route.params.code))
    await Promise.all([playbooks.need(), shop.load()])
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
await load()
useIntervalFn(() => void store.refresh(), 1500)
useEventListener('focus', () => void store.refresh())
useSingleKeys({ escape: ['back to the case', () => void navigateTo(`/cases/${store.code}`)] })
const title = computed(() => titleOf(store.asItIs))
const terms = computed(() => playbooks.playbook?.shop ?? null)
const next = computed(() => (terms.value ? nextWithClient(store.asItIs, terms.value, now.value) : null))
const earlier = computed(() => shop.answer?.earlier ?? [])
const NEXT = {
  'take-in': 'Take in what the client brought',
  agree: 'Record what the client agrees to',
  remind: 'Tell the client that it is ready',
  check: 'Go through it with the client',
  outcome: 'Record the outcome',
  pay: 'Take the payment',
  'give-back': 'Give it back',
}
// Others may have made a sheet or added a picture.
watch(
  () => store.version,
  () => void shop.load(),
)
useHead({ title: () => `Hand-over · ${title.value}` })
</script>

<template>
  <div v-if="trouble" class="p-10"><ErrorNote :words="trouble" @again="load" /></div>
  <div v-else class="mx-auto max-w-[1280px] px-5 pb-12">
    <div class="flex flex-wrap items-baseline gap-x-5 gap-y-1 border-b border-line py-2.5">
      <h1 class="min-w-0 truncate text-[22px]" :title="title">{{ title }}</h1>
      <NuxtLink :to="`/cases/${store.code}`" class="figure text-[14px] underline decoration-dotted">
        {{ store.code }}
      </NuxtLink>
      <p class="min-w-0 flex-1 text-[15px]" data-test="next-with-client">
        <template v-if="next">
          <span class="text-soft">{{ `Next: ` }}</span>
          <strong>{{ NEXT[next] }}</strong>
        </template>
        <span v-else class="text-soft">Nothing is waiting between shop and client.</span>
      </p>
      <MoveCase />
    </div>
    <p v-if="earlier.length > 0 && store.asItIs.returnOf === null" class="mt-2 text-[14.5px]" data-test="earlier">
      This client’s case
      <template v-for="one in earlier" :key="one.code">
        <NuxtLink :to="`/hand-over/${one.code}`" class="underline decoration-dotted">
          {{ one.code }}, {{ one.title }}
        </NuxtLink>
        <button
          type="button"
          class="quiet-action ml-2"
          :disabled="shop.isBusy"
          @click="shop.act({ do: 'return-of', code: one.code })"
        >
          The same fault is back
        </button>
      </template>
      ended within our promise.
    </p>
    <p v-else-if="store.asItIs.returnOf" class="mt-2 text-[14.5px]">
      A return of
      <NuxtLink :to="`/hand-over/${store.asItIs.returnOf}`" class="underline decoration-dotted">
        {{ store.asItIs.returnOf }}
      </NuxtLink>
      , within our promise: no charge for the same fault.
    </p>
    <div class="mt-4 grid gap-x-12 gap-y-8 desk:grid-cols-2">
      <div class="space-y-8">
        <CustodyPart :is-next="next === 'take-in' || next === 'give-back'" />
        <SecretPart />
        <AgreementPart :is-next="next === 'agree'" />
        <ContactPart :is-next="next === 'remind'" />
      </div>
      <div class="space-y-8">
        <ResultPart :is-next-check="next === 'check'" :is-next-outcome="next === 'outcome'" />
        <MoneyPart :is-next="next === 'pay'" />
        <PapersPart />
        <AfterwardsPart />
        <StopPart />
      </div>
    </div>
  </div>
</template>
