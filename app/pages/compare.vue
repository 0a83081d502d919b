<script setup lang="ts">
import { emptyCase, type Case } from '~~/core/cases/shape/case'
import { withFacts, withMissingParts } from '~~/core/cases/facts/facts'
import { answer, optionsAt, wordsOf } from '~~/core/cases/telling/answering'
import { askingOf } from '~~/core/cases/telling/asking'
import { wantsOf } from '~~/core/cases/telling/wants'
import { comparedRoutes } from '~~/core/ranking/explain/compared'
import { CaseAnswer } from '~~/core/cases/facts/writing'

/** The kinds of routes for one kind of device and loss, side by side: a page of the playbook, opened from a case or alone. */
const playbooks = usePlaybookStore()
const context = useAnswerContext()
const now = useServerNow()
const route = useRoute()
const trouble = ref<string | null>(null)
const asked = shallowRef<Case>(emptyCase())
/** A word of the address; whatever else somebody puts there is none. */
const inAddress = (key: string) => (typeof route.query[key] === 'string' ? route.query[key] : undefined)
const from = computed(() => inAddress('case'))

/** The words of the sentence, and where each is in the address. */
const WORDS = [
  { key: 'what', fact: 'wanted.w1.type', before: 'Ways to get back ' },
  { key: 'device', fact: 'devices.d1.kind', before: ' from ' },
  { key: 'family', fact: 'devices.d1.platform', before: ', ' },
  { key: 'how', fact: 'loss.how', before: ', ' },
  { key: 'since', fact: 'loss.when', before: ', ' },
] as const
/** What is not lost yet will be at a time that lies ahead. */
const pathOf = (fact: string) =>
  fact === 'loss.when' && asked.value.loss.how === 'not-lost-yet' ? 'loss.when#ahead' : fact

function setTo(fact: string, typed: string): string | null {
  const read = answer(asked.value, pathOf(fact), typed, context.value)
  if (!read.ok) return read.message
  // Nothing is drawn from a comparison: it is about no case.
  const changes = read.changes.filter((change) => change.fact === fact)
  const set = withFacts(asked.value, withMissingParts(asked.value, changes))
  if (!set.ok) return `That ${set.faults[0]?.message}.`
  asked.value = set.changed
  return null
}

async function load() {
  trouble.value = null
  try {
    await playbooks.need()
    if (from.value === undefined) {
      for (const { key, fact } of WORDS) {
        const typed = inAddress(key)
        if (typed !== undefined) setTo(fact, typed)
      }
      return
    }
    const { case: ofCase } = await api(CaseAnswer, 'GET', `/api/cases/${encodeURIComponent(from.value)}`)
    const [device, set] = [ofCase.devices[0], ofCase.wanted[0]]
    const facts = withFacts(emptyCase(), [
      { fact: 'devices.d1', is: { ...device, id: 'd1' } },
      { fact: 'wanted.w1', is: { ...set, id: 'w1' } },
      { fact: 'loss', is: ofCase.loss },
    ])
    if (facts.ok) asked.value = facts.changed
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
await load()

function commit(fact: string, typed: string): string | null {
  const problem = setTo(fact, typed)
  if (problem === null) {
    const words = WORDS.flatMap(({ key, fact: one }) => {
      const said = wordsOf(asked.value, one, context.value)
      return said === null ? [] : [[key, said] as const]
    })
    void navigateTo({ query: Object.fromEntries(words) }, { replace: true })
  }
  return problem
}

function optionsFor(fact: string) {
  const options = optionsAt(asked.value, fact)
  return options.length > 0 ? options : undefined
}

const routes = computed(() =>
  playbooks.playbook && playbooks.evidence
    ? comparedRoutes(asked.value, playbooks.playbook, playbooks.evidence, now.value)
    : [],
)
const isAsked = computed(() => asked.value.devices.length > 0 && asked.value.wanted.length > 0)
const print = () => window.print()
useHead({ title: 'Routes compared' })
</script>

<template>
  <div v-if="trouble" class="p-10"><ErrorNote :words="trouble" @again="load" /></div>
  <div v-else class="mx-auto max-w-[1320px] px-6 py-5 desk:px-8 print:max-w-none print:p-0">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-2">
      <h1 class="text-[26px]">Routes compared</h1>
      <p class="flex gap-3 text-[14px] text-soft print:hidden">
        <NuxtLink v-if="from" :to="`/cases/${from}`" class="underline decoration-dotted">‹ {{ from }}</NuxtLink>
        <NuxtLink to="/playbook" class="underline decoration-dotted">periods and costs</NuxtLink>
      </p>
      <button v-if="isAsked" type="button" class="quiet-action ml-auto print:hidden" data-test="print" @click="print">
        Print the comparison
      </button>
    </div>
    <p data-words class="mt-3 text-[19px] leading-relaxed" data-test="compared-for">
      <template v-for="{ key, fact, before } in WORDS" :key="key">
        {{ before }}
        <WordField
          :label="askingOf(pathOf(fact))?.label ?? ''"
          :question="askingOf(fact)?.question ?? ''"
          :words="wordsOf(asked, fact, context)"
          :options="optionsFor(fact)"
          :wants="wantsOf(askingOf(fact)!.control.by, optionsFor(fact) ?? [])"
          :commit="(typed: string) => commit(fact, typed)"
        />
      </template>
    </p>
    <ComparedTable v-if="isAsked" class="mt-5" :routes="routes" />
    <p v-else class="mt-8 max-w-[62ch] text-soft">
      Say what is wanted and from which kind of device: the routes for it appear here, with what each needs, how long it
      stays open, how often it works in this shop, and what it puts at risk.
    </p>
  </div>
</template>
