<script setup lang="ts">
import { known } from '~~/core/cases/shape/fact'
import { RunReport, type Run } from '~~/core/cases/shape/run'
import { faultsOf, type Fault } from '~~/core/cases/shape/faults'
import type { RouteKind } from '~~/core/playbook/kinds/route-kind'
import { TYPE_WORDS } from '~~/core/cases/telling/words'
import { SAFETY } from '~~/core/ranking/situation/plan-shape'

/** How a run ended: minutes, money, what came back of each wanted set, what it failed on, a note. */
const props = defineProps<{ run: Run; kind: RouteKind | null }>()
const store = useOpenCaseStore()
const session = useSessionStore()
/** In the list of reasons why a run failed: a reason that is no gate. */
const FAILED = 'failed'
const draftKey = `lantern:run:${store.code}:${props.run.id}`

/** The time on the clock while it can be the hands-on time; after a long wait, the usual time of such a run. */
function usualMinutes(): number {
  const minutes = Math.round((session.now() - Date.parse(props.run.started)) / 60_000)
  return minutes <= 120 ? Math.max(1, minutes) : (props.kind?.time.handsOn ?? 10)
}

interface Counted {
  back: string
  whole: string
  unverified: string
}
const nothing = (): Counted => ({ back: '', whole: '', unverified: '' })
const form = reactive({
  minutes: String(usualMinutes()),
  money: '0',
  note: '',
  failedOn: '',
  isReadBack: false,
  place: '',
  items: '',
  results: {} as Record<string, Counted>,
})
const isSafetyCopy = computed(() => props.run.kind === SAFETY)
const hasFailed = computed(() => form.failedOn === FAILED)
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
    handsOnMinutes: numeric(form.minutes),
    money: numeric(form.money),
    results,
    failedOn: form.failedOn === '' || hasFailed.value ? null : form.failedOn,
    hasFailed: hasFailed.value,
    safetyCopy:
      isSafetyCopy.value && form.failedOn === ''
        ? { isReadBack: form.isReadBack, place: form.place, items: numeric(form.items) }
        : null,
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
  'safetyCopy.isReadBack': 'That it was read back',
  'safetyCopy.place': 'Where it is',
  'safetyCopy.items': 'How many items it holds',
}
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
      <select v-model="form.failedOn" class="field">
        <option value="">{{ isSafetyCopy ? 'made' : 'carried out' }}</option>
        <option :value="FAILED">failed</option>
        <option v-for="gate in kind?.gates ?? []" :key="gate.gate" :value="gate.gate">
          could not start: {{ gate.gate.replaceAll('-', ' ') }}
        </option>
      </select>
    </label>
    <template v-if="isSafetyCopy && form.failedOn === ''">
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
    <div class="grid grid-cols-2 gap-2">
      <label>
        hands-on minutes
        <input v-model="form.minutes" inputmode="decimal" class="field figure" />
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
