<script setup lang="ts">
import { useEventListener, useIntervalFn } from '@vueuse/core'
import { tellingOf } from '~~/core/cases/telling/telling'

definePageMeta({ key: 'log' })
provide('answer-dock', '#answer-dock')

const route = useRoute()
const store = useOpenCaseStore()
const now = useServerNow()
const full = usePlan(now)
const trouble = ref<string | null>(null)
const isReading = ref(false)
const begun = ref<number | null>(null)
const codeAsked = computed(() =>
  typeof route.params.code === 'string' && route.params.code !== '' ? route.params.code : null,
)

async function load() {
  trouble.value = null
  try {
    if (codeAsked.value === null) {
      store.begin()
      begun.value = now.value
    } else if (codeAsked.value !== store.code) await store.open(codeAsked.value)
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
// First guesses and the plan need the playbook; if it does not load, the page says so and works without it.
await Promise.all([
  load(),
  usePlaybookStore()
    .need()
    .catch(() => undefined),
])
watch(codeAsked, (asked) => {
  if (asked !== store.code) void load()
})

// A case has its code from its first fact on; the address follows without leaving the page.
watch(
  () => store.code,
  (code) => {
    if (code === null || codeAsked.value !== null) return
    unread.carryOver()
    void navigateTo(`/log/${code}`, { replace: true })
  },
)
useSingleKeys({ escape: ['go back', () => void navigateTo(store.code === null ? '/' : `/cases/${store.code}`)] })
useIntervalFn(() => void store.refresh(), 1500)
useEventListener('focus', () => void store.refresh())
useEventListener('keydown', (event: KeyboardEvent) => {
  if (event.key !== 'Enter' || !(event.ctrlKey || event.metaKey) || isReading.value) return
  event.preventDefault()
  ;(document.activeElement as HTMLElement | null)?.blur()
  void readBack()
})

const unread = useUnreadWordsStore()
/** Words of the telling that were not understood; a sentence that the story no longer needs takes its word along. */
const notUnderstood = computed(() => {
  const words = tellingOf(store.current).flatMap(({ pieces }) =>
    pieces.flatMap((piece) => ('fact' in piece ? [piece.fact] : 'add' in piece ? [unreadAdding(piece.add)] : [])),
  )
  return words.filter((word) => unread.words[word] !== undefined).length
})
const notUnderstoodWords = computed(() =>
  notUnderstood.value === 1 ? '1 word was not understood' : `${notUnderstood.value} words were not understood`,
)
const announced = ref('')

/** Reads the telling back; a word that was not understood comes first, since nobody would hear it read. */
async function readBack() {
  if (notUnderstood.value === 0) {
    isReading.value = true
    return
  }
  announced.value = ''
  await nextTick()
  announced.value = `${notUnderstoodWords.value}. This is the first.`
  document.querySelector<HTMLInputElement>('[data-words] .is-wrong input')?.focus()
}

onMounted(() => {
  if (codeAsked.value === null) document.querySelector<HTMLInputElement>('input[data-word]')?.focus()
})

const sinceBegun = computed(() => {
  if (begun.value === null) return null
  const minutes = Math.floor((now.value - begun.value) / 60_000)
  return minutes === 0 ? 'just begun' : `${minutes} min`
})
const isEmpty = computed(() => store.code === null)

useHead({ title: () => (store.code ? `Log ${store.code}` : 'Log a case') })

async function right() {
  isReading.value = false
  await navigateTo(`/cases/${store.code}`)
}
</script>

<template>
  <div v-if="trouble" class="p-10">
    <ErrorNote :words="trouble" @again="load" />
  </div>
  <div
    v-else
    class="grid min-h-[calc(100vh-46px)] grid-cols-[minmax(0,1fr)] desk:grid-cols-[minmax(0,1fr)_minmax(360px,580px)]"
  >
    <section class="flex min-w-0 flex-col px-6 pt-5 desk:px-11" aria-label="The telling">
      <div class="flex items-baseline gap-3">
        <h1 class="text-[23px]">{{ store.code ?? 'A new case' }}</h1>
        <p class="text-[15px] text-soft">
          <template v-if="sinceBegun">{{ sinceBegun }} ·&nbsp;</template>
          <SavingNote />
        </p>
      </div>
      <ClashNotes class="mt-3" />
      <CaseTelling class="mt-4 max-w-[680px] flex-1" />
      <div class="sticky bottom-0 -mx-6 border-t border-line bg-paper px-6 py-3 desk:-mx-11 desk:px-11">
        <div class="flex items-end justify-between gap-5">
          <div class="min-h-[40px] min-w-0 flex-1">
            <div id="answer-dock" />
            <p class="key-hints mt-1 flex flex-wrap gap-x-4 gap-y-1 text-[14px] text-soft">
              <span>
                <kbd class="key-cap">Tab</kbd>
                next word
              </span>
              <span>
                <kbd class="key-cap">?</kbd>
                not known
              </span>
              <span>
                <kbd class="key-cap">+</kbd>
                one more copy
              </span>
            </p>
          </div>
          <div class="shrink-0 text-right">
            <p v-if="notUnderstood > 0" class="mb-1 text-[14px] font-bold text-russet-ink" data-test="not-understood">
              ▲ {{ notUnderstoodWords }}
            </p>
            <p class="sr-only" role="status">{{ announced }}</p>
            <button type="button" class="main-action" :disabled="isEmpty" data-test="read-back" @click="readBack">
              {{ notUnderstood > 0 ? 'Go to the first' : 'Read back' }}
              <kbd class="key-cap">Ctrl Enter</kbd>
            </button>
          </div>
        </div>
      </div>
    </section>
    <aside class="border-line px-6 py-5 desk:border-l" aria-label="Plan">
      <PlanGlance v-if="full" :full="full" :now="now" class="desk:sticky desk:top-[64px]" />
    </aside>
    <ReadBack :is-open="isReading" @close="isReading = false" @right="right" />
  </div>
</template>

<style scoped>
/* The keys make room for the answers while a word is being answered. */
#answer-dock:not(:empty) + .key-hints {
  display: none;
}
</style>
