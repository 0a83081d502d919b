<script setup lang="ts">
import { known } from '~~/core/cases/fact'
import { RunReport, type Run } from '~~/core/cases/run'
import { faultsOf, type Fault } from '~~/core/cases/faults'
import type { RouteKind } from '~~/core/playbook/route-kind'
import { TYPE_WORDS } from '~~/core/cases/words'

/** How a run ended: minutes, money, what came back of each wanted set, what it failed on, a note. */
const props = defineProps<{ run: Run; kind: RouteKind | null }>()
const store = useOpenCaseStore()
const session = useSessionStore()
const draftKey = `lantern:run:${store.code}:${props.run.id}`

/** What the clock says while that can be the hands-on time; after a long wait, what such a run usually takes. */
function usualMinutes(): number {
  const minutes = Math.round((session.now() - Date.parse(props.run.started)) / 60_000)
  return minutes <= 120 ? Math.max(1, minutes) : (props.kind?.time.handsOn ?? 10)
}

const form = reactive({
  minutes: String(usualMinutes()),
  money: '0',
  note: '',
  failedOn: '',
  results: {} as Record<string, { back: string; whole: string }>,
})
const faults = ref<Fault[]>([])
const isBusy = ref(false)

const sets = computed(() =>
  store.current.wanted.map((set) => ({
    id: set.id,
    name: known(set.title) ? set.title : known(set.type) ? TYPE_WORDS[set.type] : 'wanted',
    of: known(set.count) ? set.count : null,
  })),
)
for (const set of sets.value) {
  // What was counted at the bench need not be counted again.
  const counted = props.run.shelf.find((one) => one.wanted === set.id)?.verified ?? 0
  form.results[set.id] = { back: counted > 0 ? String(counted) : '', whole: '' }
}
try {
  Object.assign(form, JSON.parse(localStorage.getItem(draftKey) ?? '{}'))
} catch {
  localStorage.removeItem(draftKey)
}
// What is written here survives a reload, like everything else that is typed.
watch(form, () => localStorage.setItem(draftKey, JSON.stringify(form)), { deep: true })

const numeric = (typed: string) => (typed.trim() === '' ? 0 : Number(typed.replace(',', '.')))

async function record() {
  const results = sets.value
    .map((set) => ({
      wanted: set.id,
      back: numeric(form.results[set.id]!.back),
      whole:
        form.results[set.id]!.whole.trim() === ''
          ? numeric(form.results[set.id]!.back)
          : numeric(form.results[set.id]!.whole),
    }))
    .filter((result) => result.back !== 0 || result.whole !== 0)
  const read = RunReport.safeParse({
    handsOnMinutes: numeric(form.minutes),
    money: numeric(form.money),
    results,
    failedOn: form.failedOn === '' ? null : form.failedOn,
    note: form.note,
  })
  faults.value = read.success ? [] : faultsOf(read.error)
  if (!read.success || isBusy.value) return
  isBusy.value = true
  if (await store.endRun(props.run.id, read.data)) localStorage.removeItem(draftKey)
  isBusy.value = false
}

const WORDS: Record<string, string> = {
  handsOnMinutes: 'Minutes',
  money: 'Money',
  note: 'The note',
  failedOn: 'What it failed on',
}
const faultWords = computed(() =>
  faults.value.map(
    (fault) =>
      `${fault.path.startsWith('results') ? 'What came back' : (WORDS[fault.path] ?? fault.path)}: ${/expected number|Invalid input|expected int/.test(fault.message) ? 'is not a number' : fault.message}.`,
  ),
)
</script>

<template>
  <form class="space-y-3 text-[14px]" novalidate data-test="run-report" @submit.prevent="record">
    <fieldset v-for="set in sets" :key="set.id">
      <legend class="section-name">
        {{ set.of ? `${set.name}, of about ${set.of}` : set.name }}
      </legend>
      <div class="mt-1 grid grid-cols-2 gap-2">
        <label>
          came back
          <input v-model="form.results[set.id]!.back" inputmode="numeric" class="field figure" />
        </label>
        <label>
          of these whole
          <input
            v-model="form.results[set.id]!.whole"
            inputmode="numeric"
            class="field figure"
            :placeholder="form.results[set.id]!.back || 'all'"
          />
        </label>
      </div>
    </fieldset>
    <div class="grid grid-cols-2 gap-2">
      <label>
        minutes at it
        <input v-model="form.minutes" inputmode="decimal" class="field figure" />
      </label>
      <label>
        money spent
        <input v-model="form.money" inputmode="decimal" class="field figure" />
      </label>
    </div>
    <label v-if="kind && kind.gates.length > 0" class="block">
      could not begin, because of
      <select v-model="form.failedOn" class="field">
        <option value="">nothing; it was tried</option>
        <option v-for="gate in kind.gates" :key="gate.gate" :value="gate.gate">
          {{ gate.gate.replaceAll('-', ' ') }}
        </option>
      </select>
    </label>
    <label class="block">
      note
      <textarea v-model="form.note" rows="2" maxlength="2000" class="field" />
    </label>
    <div v-if="faultWords.length > 0" role="alert" class="font-bold text-russet-ink">
      <p v-for="words in faultWords" :key="words">{{ words }}</p>
    </div>
    <button type="submit" class="main-action w-full" :disabled="isBusy">Record how it ended</button>
  </form>
</template>
