<script setup lang="ts">
import { DEVICE_KIND_WORDS, LOSS_WORDS, PLATFORM_WORDS, TYPE_WORDS } from '~~/core/cases/telling/words'
import { RunsAnswer } from '~~/core/ledger/answers'
import { HOUR_WORDS } from '~~/core/ledger/hours'
import type { LedgerFilter } from '~~/core/ledger/filter'
import type { RunEnd } from '~~/core/ledger/ended-run'
import { FAMILY_WORDS } from '~~/core/playbook/family-words'

/** The runs behind a figure of the ledger. */
const session = useSessionStore()
const clock = useClockWords()
const money = useMoney()
const { filter, to, set } = useLedgerFilter()
const answer = shallowRef<RunsAnswer | null>(null)
const trouble = ref<string | null>(null)
async function load() {
  trouble.value = null
  try {
    answer.value = await api(RunsAnswer, 'GET', `/api/ledger/runs?${queryOf(filter.value)}`)
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
await load()
watch(filter, load)

const ENDS: Record<RunEnd, string> = {
  worked: 'worked',
  failed: 'brought nothing',
  gate: 'a condition was not met',
  undecided: 'ended undecided',
}
/** What narrows the list beside the sentence, each with what takes it away. */
const narrowed = computed(() => {
  const { kind, family, platform, end, tenth, since, hours, damaged, first, out } = filter.value
  const all: [keyof LedgerFilter, string | null][] = [
    ['kind', kind ? (answer.value?.runs[0]?.title ?? kind) : null],
    ['family', family ? (family === 'other' ? 'repairs, safety copies, other' : FAMILY_WORDS[family]) : null],
    ['platform', platform ? (platform === 'unknown' ? 'platform not known' : PLATFORM_WORDS[platform]) : null],
    ['end', end ? ENDS[end] : null],
    ['tenth', tenth === undefined ? null : `promised ${tenth * 10} to ${tenth * 10 + 10}%`],
    ['since', since === undefined ? null : `since ${clock.dayOf(since)}`],
    ['hours', hours ? `time for ${HOUR_WORDS[hours]}` : null],
    ['damaged', damaged ? 'brought something damaged' : null],
    ['first', first ? 'first in their case' : null],
    ['out', out ? 'left out of the odds' : null],
  ]
  return all.flatMap(([key, words]) => (words === null ? [] : [{ key, words }]))
})
const deviceOf = (key: string) => (DEVICE_KIND_WORDS as Record<string, string>)[key] ?? '–'
const typeOf = (key: string) => (TYPE_WORDS as Record<string, string>)[key] ?? '–'
const lossOf = (key: string) => (LOSS_WORDS as Record<string, string>)[key] ?? '–'
useHead({ title: 'Runs' })
</script>

<template>
  <div v-if="trouble" class="p-10"><ErrorNote :words="trouble" @again="load" /></div>
  <div v-else-if="answer" class="mx-auto max-w-[1320px] px-6 py-4">
    <NuxtLink
      :to="
        to('/ledger', {
          kind: undefined,
          end: undefined,
          tenth: undefined,
          since: undefined,
          hours: undefined,
          damaged: undefined,
          first: undefined,
          out: undefined,
          family: undefined,
          platform: undefined,
        })
      "
      class="text-[14.5px] underline decoration-dotted print:hidden"
    >
      ← Ledger
    </NuxtLink>
    <div class="flex flex-wrap items-baseline gap-x-6 gap-y-1">
      <h1 class="text-[26px]">Runs</h1>
      <LedgerSentence :runs="answer.total" :people="[]" />
      <a
        :href="`/api/ledger/csv?${queryOf(filter)}`"
        download
        class="ml-auto text-[14.5px] underline decoration-dotted"
      >
        CSV
      </a>
    </div>
    <p v-if="narrowed.length > 0" class="mt-1 flex flex-wrap gap-2 text-[14.5px]">
      <button
        v-for="one in narrowed"
        :key="one.key"
        type="button"
        class="quiet-action"
        :aria-label="`Without: ${one.words}`"
        @click="set({ [one.key]: undefined })"
      >
        {{ one.words }}
        <span aria-hidden="true">×</span>
      </button>
    </p>
    <p v-if="answer.total === 0" class="mt-10 text-[17px] text-soft">No run matches this.</p>
    <div v-else class="mt-3 overflow-x-auto">
      <table class="list-table text-[14.5px]">
        <thead>
          <tr>
            <th scope="col" class="whitespace-nowrap">ended</th>
            <th scope="col" class="whitespace-nowrap">case</th>
            <th scope="col" class="whitespace-nowrap">route</th>
            <th scope="col" class="whitespace-nowrap">on</th>
            <th scope="col" class="whitespace-nowrap">data</th>
            <th scope="col" class="whitespace-nowrap">loss</th>
            <th scope="col" class="whitespace-nowrap">promised</th>
            <th scope="col" class="whitespace-nowrap">came</th>
            <th scope="col" class="whitespace-nowrap">hands-on</th>
            <th scope="col" class="whitespace-nowrap">spent</th>
            <th scope="col" class="whitespace-nowrap">by</th>
            <th scope="col" class="whitespace-nowrap"><span class="sr-only">in the odds</span></th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="run in answer.runs"
            :key="run.code + run.run"
            :class="{ 'text-soft': run.leftOut !== null }"
            data-test="run-line"
          >
            <td class="figure whitespace-nowrap text-[13px]">
              {{ clock.dayOf(run.ended) }}
            </td>
            <td>
              <NuxtLink
                :to="`/cases/${run.code}`"
                class="figure whitespace-nowrap text-[13px] underline decoration-dotted"
              >
                {{ run.code }}
              </NuxtLink>
            </td>
            <td>{{ run.title }}</td>
            <td>{{ deviceOf(run.device) }}</td>
            <td>{{ typeOf(run.type) }}</td>
            <td>{{ lossOf(run.loss) }}</td>
            <td class="figure whitespace-nowrap text-[13px]">
              {{ run.chance === null ? '–' : percent(run.chance) }}
            </td>
            <td :class="{ 'figure text-[13px]': run.end === 'worked' }">
              {{ run.end === 'worked' ? percent(run.came ?? 0) : ENDS[run.end] }}
            </td>
            <td class="figure whitespace-nowrap text-[13px]">{{ minutesWords(run.handsOn) }}</td>
            <td class="figure whitespace-nowrap text-[13px]">{{ run.spent > 0 ? money(run.spent) : '–' }}</td>
            <td class="whitespace-nowrap">{{ run.by }}</td>
            <td class="whitespace-nowrap text-right print:hidden">
              <span v-if="run.leftOut" class="mr-2" :title="run.leftOut">left out: {{ run.leftOut }}</span>
              <LeaveOut v-if="session.may('close')" :run="run" @done="load" />
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="answer.runs.length < answer.total" class="mt-3 text-soft">
      The newest {{ answer.runs.length }} of {{ numberWords(answer.total) }}; the CSV has all.
    </p>
  </div>
</template>
