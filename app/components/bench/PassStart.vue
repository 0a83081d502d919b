<script setup lang="ts">
import { known } from '~~/core/cases/shape/fact'
import { DATA_TYPES, type DataType } from '~~/core/cases/shape/data-types'
import { TYPE_WORDS } from '~~/core/cases/telling/words'
import type { MediumShape } from '~~/core/bench/medium'

/** The options of a scan before it starts; its types are those that the case wants until somebody chooses others. */
const props = defineProps<{ medium: MediumShape; first: 'quick' | 'both'; canLeave: boolean }>()
const emit = defineEmits<{ begun: [listing: number]; leave: [] }>()
const store = useOpenCaseStore()
const bench = useBenchStore()
const deeds = usePassDeeds()

/** Typical read speed of a card or disk in bytes per second, for an estimate before anything was read. */
const USUAL_SPEED = 60_000_000

const pass = ref(props.first)
const wantedTypes = computed(() => store.current.wanted.flatMap((set) => (known(set.type) ? [set.type] : [])))
const types = ref<DataType[]>(wantedTypes.value.includes('files') ? [] : [...new Set(wantedTypes.value)])
const isWhole = ref(false)
const takesChecksum = ref(false)
const stopsWhenFound = ref(false)
const counts = computed(() => store.current.wanted.flatMap((set) => (known(set.count) ? [set.count] : [])))
const enough = computed(() =>
  counts.value.length > 0 && counts.value.length === store.current.wanted.length
    ? counts.value.reduce((sum, one) => sum + one, 0)
    : null,
)
const free = computed(() => {
  const told = props.medium.inUse.map((part) => (part === null ? 1 : 1 - part))
  return (told.reduce((sum, part) => sum + part, 0) / told.length) * props.medium.bytes
})
const seconds = computed(
  () =>
    (takesChecksum.value || isWhole.value ? props.medium.bytes : pass.value === 'both' ? free.value : 0) / USUAL_SPEED,
)
const toggle = (type: DataType) =>
  (types.value = types.value.includes(type) ? types.value.filter((one) => one !== type) : [...types.value, type])

async function begin() {
  const listing = await deeds.start(props.medium.link, {
    pass: pass.value,
    types: pass.value === 'both' ? types.value : [],
    isWhole: pass.value === 'both' && isWhole.value,
    takesChecksum: takesChecksum.value,
    stopsWhenFound: stopsWhenFound.value && enough.value !== null,
  })
  if (listing !== null) emit('begun', listing)
}

/** Nothing can be found before it is opened: then that is the next thing to do. */
const isLocked = computed(
  () => props.medium.volumes.length > 0 && props.medium.volumes.every(({ lock }) => lock === 'closed'),
)
</script>

<template>
  <form class="grid max-w-[780px] gap-4 overflow-y-auto pb-8" data-test="pass-start" @submit.prevent="begin">
    <fieldset class="grid gap-2">
      <legend class="mb-1 font-head text-[18px] font-bold">What to scan</legend>
      <label class="way" :class="{ chosen: pass === 'quick' }">
        <input v-model="pass" type="radio" value="quick" class="mt-1 size-4 accent-[var(--russet)]" />
        <span>
          <strong>Quick pass: file-system records</strong>
          <span class="block text-[14.5px] text-soft">
            Names, folders, dates and places of what is there and of what was deleted. Usually done in a minute.
          </span>
        </span>
      </label>
      <label class="way" :class="{ chosen: pass === 'both' }">
        <input v-model="pass" type="radio" value="both" class="mt-1 size-4 accent-[var(--russet)]" />
        <span>
          <strong>Deep scan: records and content</strong>
          <span class="block text-[14.5px] text-soft">
            Begins with the quick pass, then looks at every sector that nothing uses, and knows files by their
            structure. What has lost its record is found without its name.
          </span>
        </span>
      </label>
    </fieldset>
    <fieldset v-if="pass === 'both'">
      <legend class="font-bold">Types to search for by content</legend>
      <p class="text-[14px] text-soft">
        {{ types.length === 0 ? 'All known types.' : 'Fewer types take less time.' }}
      </p>
      <div class="mt-1 flex flex-wrap gap-1.5">
        <label v-for="type in DATA_TYPES.filter((one) => one !== 'files')" :key="type" class="kind">
          <input
            type="checkbox"
            class="size-4 accent-[var(--russet)]"
            :checked="types.includes(type)"
            @change="toggle(type)"
          />
          {{ TYPE_WORDS[type] }}
        </label>
      </div>
    </fieldset>
    <div class="grid gap-1 text-[15px]">
      <label v-if="pass === 'both'" class="choice">
        <input v-model="isWhole" type="checkbox" class="size-4 accent-[var(--russet)]" />
        also search sectors that are in use
      </label>
      <label class="choice">
        <input v-model="takesChecksum" type="checkbox" class="size-4 accent-[var(--russet)]" />
        take the SHA-256 of the whole medium on the way, for the chain of custody
      </label>
      <label v-if="enough !== null" class="choice">
        <input v-model="stopsWhenFound" type="checkbox" class="size-4 accent-[var(--russet)]" />
        stop once about {{ enough }} wanted items are found whole
      </label>
    </div>
    <div class="flex flex-wrap items-center gap-4">
      <button
        type="submit"
        :class="isLocked ? 'quiet-action' : 'main-action'"
        :disabled="bench.isBusy"
        data-test="next"
      >
        {{ pass === 'quick' ? 'Start quick pass' : 'Start deep scan' }}
      </button>
      <button v-if="canLeave" type="button" class="quiet-action" @click="emit('leave')">Cancel</button>
      <span class="text-[14px] text-soft">
        {{ seconds >= 5 ? `About ${aboutTime(seconds)} at usual speed. ` : '' }}The medium is opened read only and never
        written.
      </span>
    </div>
    <table v-if="medium.volumes.length > 0" class="w-full text-left text-[14.5px]">
      <caption class="mb-1 text-left font-bold">Volumes</caption>
      <thead class="sr-only">
        <tr>
          <th>name</th>
          <th>file system</th>
          <th>size</th>
          <th>starts at</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="volume in medium.volumes" :key="volume.index" class="border-t border-line">
          <th scope="row" class="py-1.5 pr-4 font-normal">{{ volume.label ?? `Volume ${volume.index + 1}` }}</th>
          <td class="py-1.5 pr-4">{{ systemSays(volume) }}</td>
          <td class="figure py-1.5 pr-4 text-right text-[13.5px]">{{ sizeWords(volume.bytes) }}</td>
          <td class="figure py-1.5 text-right text-[13.5px] text-soft">
            {{
              volume.scheme === 'none'
                ? 'no partitions'
                : `${volume.scheme.toUpperCase()}, from ${sizeWords(volume.offset)}`
            }}
          </td>
        </tr>
      </tbody>
    </table>
    <ul v-if="medium.warnings.length > 0" class="text-[14px] text-russet-ink">
      <li v-for="one in medium.warnings.slice(0, 5)" :key="one.where + one.what">{{ one.where }}: {{ one.what }}</li>
    </ul>
  </form>
</template>

<style scoped>
.way {
  display: flex;
  gap: 12px;
  padding: 8px 12px;
  border: 1px solid var(--line);
  background: var(--sheet);
  cursor: pointer;
}
.way.chosen {
  border-color: var(--russet);
  box-shadow: inset 3px 0 0 var(--russet);
}
.kind,
.choice {
  display: inline-flex;
  align-items: center;
  gap: 8px;
  min-height: 30px;
  cursor: pointer;
}
.kind {
  padding: 0 10px;
  border: 1px solid var(--line);
  background: var(--sheet);
  font-size: 14.5px;
}
</style>
