<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue'
import { known } from '~~/core/cases/shape/fact'
import { TYPE_WORDS } from '~~/core/cases/telling/words'
import type { FindCounts, FindFilter } from '~~/core/bench/filter'

/** The filter of the found list as a sentence whose words are choices. */
const props = defineProps<{ counts: FindCounts | null }>()
const filter = defineModel<FindFilter>({ required: true })
const store = useOpenCaseStore()
const clock = useClockWords()

const ANY = 'any'
type Choice = { value: string; words: string; count?: number }
/** A word that says "any" is not in the filter. */
function word(name: 'type' | 'presence' | 'whole' | 'place' | 'wanted') {
  return computed({
    get: () => (filter.value[name] as string | undefined) ?? ANY,
    set: (value: string) => change({ [name]: value === ANY ? undefined : value }),
  })
}
const change = (to: Partial<FindFilter>) => (filter.value = { ...filter.value, ...to })
const [type, presence, whole, place] = [word('type'), word('presence'), word('whole'), word('place')]
const wanted = computed({
  get: () => filter.value.wanted ?? 'all',
  set: (value: string) => change({ wanted: value === 'all' ? undefined : value }),
})

const types = computed<Choice[]>(() => [
  { value: ANY, words: 'Items', count: props.counts?.total },
  ...(props.counts?.types ?? []).map((one) => ({
    value: one.type,
    words: capital(TYPE_WORDS[one.type]),
    count: one.count,
  })),
])
const PRESENCE = { present: 'still there', deleted: 'deleted', earlier: 'earlier versions' }
const presences = computed<Choice[]>(() => [
  { value: ANY, words: 'deleted or still there' },
  ...(props.counts?.presences ?? []).map((one) => ({
    value: one.presence,
    words: PRESENCE[one.presence],
    count: one.count,
  })),
])
const wholes: Choice[] = [
  { value: ANY, words: 'whole or not' },
  { value: 'whole', words: 'whole, as far as known' },
  { value: 'damaged', words: 'damaged' },
]
const places = computed<Choice[]>(() => [
  { value: ANY, words: 'any place' },
  ...(props.counts?.places ?? []).map((one) => ({ value: one.place, words: one.place, count: one.count })),
  // The open folder is one of the choices, with its subfolders.
  ...(filter.value.place !== undefined && !props.counts?.places.some(({ place: one }) => one === filter.value.place)
    ? [{ value: filter.value.place, words: filter.value.place }]
    : []),
])
const wantedChoices = computed<Choice[]>(() => [
  { value: 'all', words: 'wanted or not' },
  { value: 'any', words: 'wanted', count: props.counts?.wanted.reduce((sum, one) => sum + one.found, 0) },
  ...(store.current.wanted.length > 1
    ? store.current.wanted.map((set) => ({
        value: set.id,
        words: `wanted: ${known(set.title) ? set.title : known(set.type) ? TYPE_WORDS[set.type] : set.id}`,
        count: props.counts?.wanted.find((one) => one.id === set.id)?.found,
      }))
    : []),
])
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

const dates = computed(() => {
  const { fromDay: from, toDay: to, isUndated } = filter.value
  if (isUndated) return 'without a date'
  const day = clock.ofDay
  if (from && to) return day(from) === day(to) ? day(from) : `${day(from)} to ${day(to)}`
  return from ? `from ${day(from)} on` : to ? `up to ${day(to)}` : 'any day'
})
const setDay = (name: 'fromDay' | 'toDay', value: string) =>
  change({ isUndated: undefined, [name]: value === '' ? undefined : value })

const find = ref(filter.value.find ?? '')
watch(find, (value) => change({ find: value.trim() === '' ? undefined : value.trim() }))
watch(
  () => filter.value.find,
  (value) => {
    if ((value ?? '') !== find.value.trim()) find.value = value ?? ''
  },
)
const sizes = computed(() => {
  const { least, most } = filter.value
  if (least === undefined && most === undefined) return 'of any size'
  if (most === undefined) return `over ${sizeWords(least!)}`
  return least === undefined ? `under ${sizeWords(most)}` : `of ${sizeWords(least)} to ${sizeWords(most)}`
})
const megabytes = (bytes: number | undefined) => (bytes === undefined ? '' : String(bytes / 1e6))
function setSize(name: 'least' | 'most', value: string) {
  const size = Number(value.replace(',', '.'))
  change({ [name]: value.trim() === '' || !Number.isFinite(size) || size < 0 ? undefined : Math.round(size * 1e6) })
}

/** How many wanted items there are: of all sets, or of the chosen one. */
const sum = computed(() => {
  const sets =
    props.counts?.wanted.filter((one) => wanted.value === 'all' || wanted.value === 'any' || one.id === wanted.value) ??
    []
  return {
    found: sets.reduce((all, one) => all + one.found, 0),
    of: sets.every((one) => one.of !== null) ? sets.reduce((all, one) => all + one.of!, 0) : null,
  }
})
const isFiltered = computed(() => Object.values(filter.value).some((value) => value !== undefined))
</script>

<template>
  <div class="sentence" data-test="sentence">
    <SentenceWord v-model="type" label="kind" :choices="types" />
    that are
    <SentenceWord v-model="wanted" label="wanted" :choices="wantedChoices" />
    and
    <SentenceWord v-model="presence" label="deleted" :choices="presences" has-comma />
    made
    <Popover as="span" class="sentence-comma relative inline-block">
      <PopoverButton class="sentence-word" :aria-label="`days: ${dates}`">
        {{ dates }}
        <span aria-hidden="true" class="text-[11px]">▾</span>
      </PopoverButton>
      <PopoverPanel class="sentence-panel w-[270px]">
        <label class="block">
          from
          <input
            type="date"
            :value="filter.fromDay ?? ''"
            class="field"
            @change="setDay('fromDay', ($event.target as HTMLInputElement).value)"
          />
        </label>
        <label class="mt-2 block">
          to
          <input
            type="date"
            :value="filter.toDay ?? ''"
            class="field"
            @change="setDay('toDay', ($event.target as HTMLInputElement).value)"
          />
        </label>
        <label class="mt-2 flex min-h-[28px] items-center gap-2">
          <input
            type="checkbox"
            :checked="filter.isUndated === true"
            class="size-4 accent-[var(--russet)]"
            @change="change({ isUndated: filter.isUndated ? undefined : true, fromDay: undefined, toDay: undefined })"
          />
          only those without a date
        </label>
      </PopoverPanel>
    </Popover>
    <SentenceWord v-model="whole" label="whole" :choices="wholes" has-comma />
    in
    <SentenceWord v-model="place" label="place" :choices="places" has-comma />
    <template v-if="filter.fromByte !== undefined && filter.toByte !== undefined">
      stored between
      <button
        type="button"
        class="sentence-word sentence-comma"
        title="Remove this range of the medium from the filter"
        @click="change({ fromByte: undefined, toByte: undefined })"
      >
        {{ sizeWords(filter.fromByte) }} and {{ sizeWords(filter.toByte) }}&nbsp;×
      </button>
    </template>
    <Popover as="span" class="sentence-comma relative inline-block">
      <PopoverButton class="sentence-word" :aria-label="`size: ${sizes}`">
        {{ sizes }}
        <span aria-hidden="true" class="text-[11px]">▾</span>
      </PopoverButton>
      <PopoverPanel class="sentence-panel w-[220px]">
        <label class="block">
          at least, in MB
          <input
            inputmode="decimal"
            :value="megabytes(filter.least)"
            class="field figure"
            @change="setSize('least', ($event.target as HTMLInputElement).value)"
          />
        </label>
        <label class="mt-2 block">
          at most, in MB
          <input
            inputmode="decimal"
            :value="megabytes(filter.most)"
            class="field figure"
            @change="setSize('most', ($event.target as HTMLInputElement).value)"
          />
        </label>
      </PopoverPanel>
    </Popover>
    named
    <input
      v-model="find"
      class="named"
      size="9"
      aria-label="part of a name, or an extension such as .docx"
      placeholder="anything"
    />
    :
    <span class="whitespace-nowrap" aria-live="polite" data-test="count">
      <strong>{{ numberWords(counts?.matching ?? 0) }}</strong>
      found
    </span>
    <span class="text-soft" data-test="wanted-count">
      · {{ sum.found }} of {{ sum.of === null ? 'those' : `about ${sum.of}` }} wanted
    </span>
    <button
      v-if="isFiltered"
      type="button"
      class="ml-2 text-[14px] text-russet-ink underline decoration-dotted"
      @click="filter = {}"
    >
      Reset the filter
    </button>
  </div>
</template>

<style scoped>
.sentence {
  font-size: 17px;
  line-height: 1.9;
}
.named {
  background: transparent;
  border-bottom: 2px solid var(--russet);
  font-weight: 700;
  min-height: 28px;
}
.named::placeholder {
  color: var(--ink);
  opacity: 1;
}
</style>
