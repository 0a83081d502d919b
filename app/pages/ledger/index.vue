<script setup lang="ts">
import { LedgerAnswer } from '~~/core/ledger/answers'
import { timeOf } from '~~/core/ledger/filter'

/** What works here, what it costs, and where the estimates are wrong. */
const session = useSessionStore()
const now = useServerNow()
const { filter, to } = useLedgerFilter()
const ledger = shallowRef<LedgerAnswer | null>(null)
const trouble = ref<string | null>(null)
let asked = 0
async function load() {
  const own = ++asked
  trouble.value = null
  try {
    const answer = await api(LedgerAnswer, 'GET', `/api/ledger?${queryOf(filter.value)}`)
    if (own === asked) ledger.value = answer
  } catch (error) {
    if (own === asked) trouble.value = failureWords(error)
  }
}
await load()
watch(filter, load)
const span = computed(() => {
  const { from, to: end } = timeOf(filter.value, now.value, session.shop.zone)
  const first = Math.min(end, ...(ledger.value?.routes.flatMap(({ course }) => course.map(([at]) => at)) ?? []))
  return { from: Math.max(from, first), to: end }
})
const csv = computed(() => `/api/ledger/csv?${queryOf(filter.value)}`)
const print = () => window.print()
useHead({ title: 'Ledger' })
</script>

<template>
  <div v-if="trouble" class="p-10"><ErrorNote :words="trouble" @again="load" /></div>
  <div v-else-if="ledger" class="mx-auto max-w-[1320px] px-6 py-4">
    <div class="flex flex-wrap items-baseline gap-x-6 gap-y-1">
      <h1 class="text-[26px]">What works here</h1>
      <LedgerSentence :runs="ledger.total.runs" :people="ledger.people" />
      <p class="ml-auto flex gap-4 text-[14.5px] print:hidden">
        <NuxtLink to="/ledger/odds" class="underline decoration-dotted">All odds</NuxtLink>
        <a :href="csv" download class="underline decoration-dotted">CSV</a>
        <button type="button" class="underline decoration-dotted" @click="print">Print</button>
      </p>
    </div>
    <p v-if="ledger.leftOut > 0" class="text-[14.5px] text-soft">
      <NuxtLink :to="to('/ledger/runs', { out: '1' })" class="underline decoration-dotted">
        {{ countOf(ledger.leftOut, 'run') }}
      </NuxtLink>
      left out with a reason.
    </p>
    <div v-if="ledger.total.runs === 0" class="mt-12 max-w-[34rem]" data-test="ledger-empty">
      <h2 class="text-xl">No runs in this period</h2>
      <p class="mt-2 text-soft">
        Every run that ends at the bench counts here: what was promised, what came, and what it cost. Start a run from
        the plan of a case, and record its result.
      </p>
    </div>
    <div v-else class="mt-3 grid gap-x-11 gap-y-6 desk:grid-cols-[minmax(0,0.86fr)_minmax(0,1fr)]">
      <section aria-labelledby="lamps">
        <h2 id="lamps" class="text-[19px]">When we said so, did it happen?</h2>
        <p class="mb-1 text-[14.5px] text-soft">
          Each lamp is a tenth of what we promised. A lamp inside its bracket kept its word.
        </p>
        <LampPicture :lamps="ledger.lamps" />
        <LampWords :lamps="ledger.lamps" />
      </section>
      <section aria-labelledby="routes" class="min-w-0">
        <h2 id="routes" class="text-[19px]">Routes, by what they brought for what they cost</h2>
        <div class="overflow-x-auto"><RouteTable :routes="ledger.routes" v-bind="span" /></div>
      </section>
      <section aria-labelledby="hours" class="desk:col-span-2">
        <h2 id="hours" class="mb-1 text-[19px]">Where the hours went</h2>
        <HoursBand :hours="ledger.hours" />
      </section>
      <section class="min-w-0 desk:col-span-2" aria-label="Runs in groups">
        <GroupTable :groups="ledger.groups" />
      </section>
      <section class="min-w-0" aria-label="What came first"><FirstChoices :firsts="ledger.firsts" /></section>
      <div class="min-w-0"><CaseFigures :ledger="ledger" /></div>
    </div>
  </div>
</template>
