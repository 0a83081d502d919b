<script setup lang="ts">
import { ENDING_WORDS } from '~~/core/handover/words'
import { outcomeOf } from '~~/core/cases/shape/outcome'
import { isMustHave } from '~~/core/cases/shape/wanted'
import { setWords } from '~~/core/cases/telling/words'

/** What came back, what the client says of it, and how the case ended. */
defineProps<{ isNextCheck: boolean; isNextOutcome: boolean }>()
const store = useOpenCaseStore()
const session = useSessionStore()
const isRecording = ref(false)
const outcome = computed(() => store.asItIs.outcome)
const rows = computed(() => {
  const counted = new Map(outcomeOf(store.asItIs).map((one) => [one.wanted, one]))
  return store.asItIs.wanted
    .map((set) => ({
      ...counted.get(set.id)!,
      id: set.id,
      words: setWords(set),
      isMust: isMustHave(set),
      must: set.mustHave === 'all' ? 'must-have' : 'part must-have',
      delivered: outcome.value?.delivered.find(({ wanted }) => wanted === set.id)?.count ?? null,
      checks: store.asItIs.checks.filter(({ wanted }) => wanted === set.id),
    }))
    .sort((one, other) => Number(other.isMust) - Number(one.isMust))
})
const checkWords = (checks: (typeof rows.value)[number]['checks']) => {
  const wrong = checks.filter(({ mark }) => mark !== 'right').length
  return checks.length === 0 ? '–' : wrong === 0 ? '✓ right' : `${wrong} open`
}
</script>

<template>
  <section aria-labelledby="result" data-test="result">
    <h2 id="result" class="text-[19px]">Result</h2>
    <table v-if="rows.length > 0" class="mt-1 w-full text-[14.5px]">
      <caption class="sr-only">What came back</caption>
      <thead class="text-[13px] text-soft">
        <tr>
          <th scope="col" class="text-left font-normal">wanted</th>
          <th scope="col" class="text-right font-normal">back</th>
          <th scope="col" class="text-right font-normal">whole</th>
          <th scope="col" class="text-right font-normal">handed over</th>
          <th scope="col" class="text-right font-normal">client</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.id" class="border-t border-line">
          <th scope="row" class="py-1 text-left font-normal">
            {{ row.of ?? '' }} {{ row.words }}
            <span v-if="row.isMust" class="text-[13px] text-russet-ink">{{ row.must }}</span>
          </th>
          <td class="figure text-right">{{ row.back }}</td>
          <td class="figure text-right">{{ row.whole }}</td>
          <td class="figure text-right">{{ row.delivered ?? '–' }}</td>
          <td class="text-right">{{ checkWords(row.checks) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="outcome" class="mt-1.5 text-[14.5px]">
      <strong>{{ ENDING_WORDS[outcome.ending] }}</strong>
      <span class="whitespace-pre-line text-soft">{{ outcome.reasons ? `: ${outcome.reasons}` : '' }}</span>
    </p>
    <div class="mt-2 flex flex-wrap gap-2">
      <NuxtLink
        v-if="session.may('work')"
        :to="`/for-two/${store.code}`"
        :class="isNextCheck ? 'main-action' : 'quiet-action'"
        data-test="for-two"
      >
        Check with the client
      </NuxtLink>
      <button
        v-if="session.may('close')"
        type="button"
        :class="isNextOutcome ? 'main-action' : 'quiet-action'"
        data-test="outcome"
        @click="isRecording = true"
      >
        {{ outcome ? 'Change the outcome …' : 'Record the outcome …' }}
      </button>
    </div>
    <OutcomeDialog v-if="isRecording" @close="isRecording = false" />
  </section>
</template>
