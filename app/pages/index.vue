<script setup lang="ts">
import { useDebounceFn, useEventListener, useIntervalFn } from '@vueuse/core'
import { closingWords } from '~~/core/ranking/explain/closing-words'
import { type CaseSummary, CounterAnswer } from '~~/core/cases/shape/summary'
import { SearchAnswer } from '~~/core/search/answers'
import { isSearchable } from '~~/core/search/query'

const session = useSessionStore()
const route = useRoute()
const now = useServerNow()
const cases = ref<CaseSummary[]>([])
const total = ref(0)
const asks = ref(0)
const isLoading = ref(true)
const trouble = ref<string | null>(null)
const table = useTemplateRef<{ go: (step: number) => void }>('table')
const results = useTemplateRef<{ go: () => void }>('results')
const found = ref<SearchAnswer | null>(null)
const zone = computed(() => session.shop.zone)
const sought = computed(() => (typeof route.query.find === 'string' ? route.query.find : ''))
/** the cases of a tag that is a group */
const together = computed(() =>
  typeof route.query.together === 'string' ? new Set(route.query.together.split(',')) : null,
)
const shown = computed(() =>
  together.value ? cases.value.filter(({ code }) => together.value!.has(code)) : cases.value,
)
let asked = 0

async function load() {
  const own = ++asked
  try {
    if (sought.value === '') {
      const counter = await api(CounterAnswer, 'GET', '/api/cases')
      if (own !== asked) return
      cases.value = counter.cases
      total.value = counter.total
      asks.value = counter.asks
      found.value = null
    } else {
      const answer = await api(SearchAnswer, 'GET', `/api/search?q=${encodeURIComponent(sought.value)}`)
      if (own !== asked) return
      found.value = answer
    }
    trouble.value = null
  } catch (error) {
    if (own !== asked) return
    if (error instanceof ApiFailure && error.error.code === 'not-signed-in') await navigateTo('/sign-in')
    trouble.value = failureWords(error)
  } finally {
    if (own === asked) isLoading.value = false
  }
}
const loadSoon = useDebounceFn(load, 120)
watch(sought, () => void loadSoon())
onMounted(load)
useIntervalFn(() => void load(), 30_000)
useEventListener('focus', () => void load())

const live = computed(() =>
  cases.value.filter(
    (one) => one.stateName === 'logged' || one.stateName === 'at-bench' || one.stateName === 'waiting',
  ),
)
const NUMBERS = [
  'Nothing closes',
  'One thing closes',
  'Two things close',
  'Three things close',
  'Four things close',
  'Five things close',
  'Six things close',
]
const nothingFound = computed(
  () => found.value !== null && found.value.clients.length === 0 && found.value.cases.length === 0,
)
const foundWords = computed(() => {
  if (found.value === null) return 'Searching …'
  if (nothingFound.value) return 'Nothing found'
  const count = found.value.cases.length
  const cases = count === 1 ? 'One case' : `${found.value.hasMore ? 'The newest ' : ''}${count} cases`
  return `${cases} for “${sought.value}”`
})
const headline = computed(() => {
  if (sought.value !== '') return foundWords.value
  const soon = live.value.filter((one) => closingWords(one.closes, now.value, zone.value).urgency === 'soon').length
  return `${NUMBERS[soon] ?? `${soon} things close`} before this time tomorrow`
})
/** The window that closes first, for the headline. */
const first = computed(
  () =>
    live.value
      .filter((one) => closingWords(one.closes, now.value, zone.value).urgency === 'soon')
      .sort((one, other) => Date.parse(one.closes[0]!) - Date.parse(other.closes[0]!))[0],
)
const under = computed(() => {
  if (sought.value !== '')
    return 'Clients, devices, notes, file names on the shelves and the history, in open and closed cases'
  const open = `${total.value} open ${total.value === 1 ? 'case' : 'cases'}`
  return first.value
    ? `${open} · first ${first.value.client}: ${first.value.closesWhat.charAt(0).toLowerCase()}${first.value.closesWhat.slice(1)}, ${closingWords(first.value.closes, now.value, zone.value).words}`
    : open
})

const firstCase = useFirstCaseOffer()
useSingleKeys({
  escape: ['show all cases', () => void (together.value && navigateTo('/'))],
  n: ['log a case', () => void navigateTo('/log')],
  arrowdown: ['into the list', () => (sought.value === '' ? table.value?.go(0) : results.value?.go())],
})
useHead({ title: 'Counter' })
</script>

<template>
  <div class="px-5 py-4">
    <div class="flex flex-wrap items-start justify-between gap-4">
      <div class="min-w-0 max-w-[820px]">
        <h1 class="text-[24px]">{{ headline }}</h1>
        <p class="mt-0.5 text-[15px] text-soft">
          {{ under }}
          <ExplainPicture
            v-if="!isLoading && sought === '' && live.length > 0"
            class="ml-3 max-desk:hidden"
            picture="the closing line"
            words="Each case hangs on the line where its next window closes: left is now, and the next hours have the most room. A tag is as wide as the moment is uncertain, and hangs lower the more is lost by waiting. What is past hangs left of now."
          />
        </p>
        <NuxtLink
          v-if="asks > 0 && sought === ''"
          to="/afterwards"
          class="text-[15px] text-russet-ink underline decoration-dotted"
          data-test="asks"
        >
          ▲ {{ asks === 1 ? 'One case asks' : `${asks} cases ask` }} before
          {{ asks === 1 ? 'it is' : 'they are' }} wiped
        </NuxtLink>
      </div>
      <div class="flex items-center gap-3">
        <button
          v-if="firstCase.canOffer.value && !firstCase.isOn.value"
          type="button"
          class="quiet-action"
          @click="firstCase.isOn.value = true"
        >
          Work a first case
        </button>
        <NuxtLink v-if="session.may('log')" to="/bring-in" class="quiet-action">Bring in, take out</NuxtLink>
        <NuxtLink to="/log" class="main-action">
          Log a case
          <KeyCap shipped="N" />
        </NuxtLink>
      </div>
    </div>
    <div class="mt-4" />
    <ErrorNote v-if="trouble" :words="trouble" class="mb-4" @again="load" />
    <p v-if="isLoading" class="mt-10 text-soft" role="status">Loading cases …</p>
    <ClosingLine
      v-if="!isLoading && sought === '' && live.length > 0"
      :cases="live"
      :now="now"
      :zone="zone"
      class="mb-3 max-desk:hidden"
    />
    <SearchResults v-if="sought !== '' && found && !nothingFound" ref="results" :found="found" :sought="sought" />
    <p v-if="together && sought === ''" class="mb-2 flex items-baseline gap-4" data-test="together">
      <strong>{{ shown.length }} of {{ cases.length }}, which close about the same time</strong>
      <NuxtLink to="/" class="text-russet-ink underline decoration-dotted">Show all</NuxtLink>
    </p>
    <CaseTable
      v-if="!isLoading && sought === '' && cases.length > 0"
      ref="table"
      :cases="shown"
      :now="now"
      :zone="zone"
    />
    <div v-else-if="nothingFound && !trouble" class="mt-16 max-w-[32rem]">
      <h2 class="text-xl">{{ isSearchable(sought) ? `Nothing says “${sought}”` : 'Two letters are the least' }}</h2>
      <p class="mt-2 text-soft">
        The beginning of each word is enough; of names and phone numbers, any three letters or digits in a row.
      </p>
    </div>
    <div v-else-if="!isLoading && !trouble && sought === ''" class="mt-16 max-w-[32rem]">
      <h2 class="text-xl">No cases yet</h2>
      <p class="mt-2 text-soft">
        Press
        <KeyCap shipped="N" />
        to log a case while the client talks. The plan appears beside it.
      </p>
    </div>
  </div>
</template>
