<script setup lang="ts">
import { known } from '~~/core/cases/shape/fact'
import { RUN_CAUSES, RunReport, type Run, type RunCause } from '~~/core/cases/shape/run'
import { clockAt } from '~~/core/cases/shape/run-clock'
import { faultsOf, type Fault } from '~~/core/cases/shape/faults'
import type { RouteKind } from '~~/core/playbook/kinds/route-kind'
import { CAUSE_WORDS, TYPE_WORDS } from '~~/core/cases/telling/words'
import { GATE_WORDS } from '~~/core/ranking/explain/sheet'
import { SAFETY } from '~~/core/ranking/situation/plan-shape'

/** How a run ended: minutes, money, what came back of each wanted set, what it failed on, a note. */
const props = defineProps<{ run: Run; kind: RouteKind | null }>()
const store = useOpenCaseStore()
const now = useTicking()
const emit = defineEmits<{ recording: [] }>()
const draftKey = `lantern:run:${store.code}:${props.run.id}`

/** Minutes by the timers of the run. A hands-on timer that ran for a night was forgotten: then the usual time. */
const MAX_LIKELY_MS = 6 * 3_600_000
const timed = computed(() => {
  const { handsOnMs, waitingMs } = props.run.clock
    ? clockAt(props.run.clock, now.value)
    : { handsOnMs: now.value - Date.parse(props.run.started), waitingMs: 0 }
  const isForgotten = handsOnMs > MAX_LIKELY_MS
  return {
    isForgotten,
    ranFor: handsOnMs / 60_000,
    handsOn: isForgotten ? (props.kind?.time.handsOn ?? 10) : Math.max(1, Math.round(handsOnMs / 60_000)),
    waiting: Math.round(waitingMs / 60_000),
  }
})

interface Counted {
  back: string
  whole: string
  unverified: string
}
const nothing = (): Counted => ({ back: '', whole: '', unverified: '' })
const form = reactive({
  /** empty: as the timer says */
  minutes: '',
  waiting: '',
  money: '0',
  note: '',
  cause: '' as RunCause | '',
  failedOn: '',
  isReadBack: false,
  place: '',
  items: '',
  results: {} as Record<string, Counted>,
})
const isSafetyCopy = computed(() => props.run.kind === SAFETY)
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
  // The shelf already counts its items and knows how many are whole.
  const shelf = props.run.shelf.find((one) => one.wanted === set.id)
  form.results[set.id] = shelf?.verified
    ? { back: String(shelf.verified), whole: String(shelf.whole), unverified: String(shelf.unverified) }
    : nothing()
}
try {
  const { results = {}, ...draft } = JSON.parse(localStorage.getItem(draftKey) ?? '{}') as Partial<typeof form>
  Object.assign(form, draft)
  for (const [id, counted] of Object.entries(results)) Object.assign((form.results[id] ??= nothing()), counted)
} catch {
  localStorage.removeItem(draftKey)
}
// The report survives a reload, like everything else that is typed.
watch(form, () => localStorage.setItem(draftKey, JSON.stringify(form)), { deep: true })

const numeric = (typed: string) => (typed.trim() === '' ? 0 : Number(typed.replace(',', '.')))

/** What is reported of a set; without a count of whole items, all that are not unverified are whole. */
function counted({ back, whole, unverified }: Counted) {
  const [all, doubtful] = [numeric(back), numeric(unverified)]
  return { back: all, whole: whole.trim() === '' ? all - doubtful : numeric(whole), unverified: doubtful }
}
const damaged = (id: string) => {
  const { back, whole, unverified } = counted(form.results[id]!)
  return Math.max(0, back - whole - unverified)
}

async function record() {
  const results = sets.value
    .map((set) => ({ wanted: set.id, ...counted(form.results[set.id]!) }))
    .filter((result) => result.back !== 0 || result.whole !== 0)
  const read = RunReport.safeParse({
    handsOnMinutes: form.minutes.trim() === '' ? timed.value.handsOn : numeric(form.minutes),
    waitingMinutes: form.waiting.trim() === '' ? timed.value.waiting : numeric(form.waiting),
    money: numeric(form.money),
    results,
    failedOn: form.cause === 'gate' && form.failedOn !== '' ? form.failedOn : null,
    hasFailed: form.cause !== '' && form.cause !== 'gate',
    cause: form.cause === '' ? null : form.cause,
    safetyCopy:
      isSafetyCopy.value && form.cause === ''
        ? { isReadBack: form.isReadBack, place: form.place, items: numeric(form.items) }
        : null,
    note: form.note,
  })
  faults.value = read.success ? [] : faultsOf(read.error)
  if (!read.success || isBusy.value) return
  isBusy.value = true
  // The plan of before stays in sight beside the new one, so it is kept before the result changes it.
  emit('recording')
  if (await store.endRun(props.run.id, read.data)) localStorage.removeItem(draftKey)
  isBusy.value = false
}

const WORDS: Record<string, string> = {
  handsOnMinutes: 'Hands-on minutes',
  waitingMinutes: 'Waiting minutes',
  cause: 'Why it failed',
  money: 'Money',
  note: 'The note',
  failedOn: 'What it failed on',
  'safetyCopy.isReadBack': 'That it was read back',
  'safetyCopy.place': 'Where it is',
  'safetyCopy.items': 'How many items it holds',
}
/** A condition that was not met can only be named where the route has one. */
const causes = computed(() =>
  RUN_CAUSES.filter((cause) => cause !== 'gate' || (props.kind?.gates ?? []).length > 0).map((cause) => ({
    cause,
    words: cause === 'gate' ? 'could not start: a condition was not met' : `failed: ${CAUSE_WORDS[cause]}`,
  })),
)
const faultWords = computed(() =>
  faults.value.map(
    (fault) =>
      `${fault.path.startsWith('results') ? 'What came back' : (WORDS[fault.path] ?? fault.path)}: ${/expected number|expected int/.test(fault.message) ? 'is not a number' : fault.message}.`,
  ),
)
</script>

<template>
  <form class="space-y-3 text-[14px]" novalidate data-test="run-report" @submit.prevent="record">
    <label class="block">
      how it went
      <select v-model="form.cause" class="field">
        <option value="">{{ isSafetyCopy ? 'made' : 'carried out' }}</option>
        <option v-for="one in causes" :key="one.cause" :value="one.cause">{{ one.words }}</option>
      </select>
    </label>
    <label v-if="form.cause === 'gate'" class="block">
      which condition was not met
      <select v-model="form.failedOn" class="field">
        <option value="" disabled>choose</option>
        <option v-for="gate in kind?.gates ?? []" :key="gate.gate" :value="gate.gate">
          {{ GATE_WORDS[gate.gate] }}
        </option>
      </select>
    </label>
    <template v-if="isSafetyCopy && form.cause === ''">
      <label class="flex items-start gap-2">
        <input v-model="form.isReadBack" type="checkbox" class="mt-1" />
        It was opened or read back and compared with the device.
      </label>
      <label class="block">
        where it is
        <input v-model="form.place" maxlength="200" class="field" placeholder="disk, folder or shelf" />
      </label>
      <label class="block">
        items in it
        <input v-model="form.items" inputmode="numeric" class="field figure" />
      </label>
    </template>
    <fieldset v-for="set in isSafetyCopy ? [] : sets" :key="set.id">
      <legend class="section-name">
        {{ set.of ? `${set.name}, of about ${set.of}` : set.name }}
      </legend>
      <div class="mt-1 grid grid-cols-3 gap-2">
        <label>
          came back
          <input v-model="form.results[set.id]!.back" inputmode="numeric" class="field figure" />
        </label>
        <label>
          whole
          <input
            v-model="form.results[set.id]!.whole"
            inputmode="numeric"
            class="field figure"
            :placeholder="form.results[set.id]!.back || 'all'"
          />
        </label>
        <label>
          not verified
          <input v-model="form.results[set.id]!.unverified" inputmode="numeric" class="field figure" placeholder="0" />
        </label>
      </div>
      <p v-if="damaged(set.id) > 0" class="mt-1 text-[13px] text-russet-ink">
        {{ countOf(damaged(set.id), 'damaged item') }}, recorded as such
      </p>
    </fieldset>
    <p v-if="timed.isForgotten" class="text-[13px] text-russet-ink">
      The hands-on timer ran for {{ minutesWords(timed.ranFor) }}: check the minutes.
    </p>
    <div class="grid grid-cols-2 gap-2">
      <label>
        hands-on minutes
        <input v-model="form.minutes" inputmode="decimal" class="field figure" :placeholder="String(timed.handsOn)" />
      </label>
      <label>
        waiting minutes
        <input v-model="form.waiting" inputmode="decimal" class="field figure" :placeholder="String(timed.waiting)" />
      </label>
      <label>
        money spent
        <input v-model="form.money" inputmode="decimal" class="field figure" />
      </label>
    </div>
    <label class="block">
      note
      <textarea v-model="form.note" rows="2" maxlength="2000" class="field" />
    </label>
    <div v-if="faultWords.length > 0" role="alert" class="font-bold text-russet-ink">
      <p v-for="words in faultWords" :key="words">{{ words }}</p>
    </div>
    <button type="submit" class="main-action w-full" :disabled="isBusy">Record result</button>
  </form>
</template>
