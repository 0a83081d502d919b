<script setup lang="ts">
import { FolderList } from '~~/core/bench/answers'
import type { FindFilter, FindFolder } from '~~/core/bench/filter'
import type { Finds } from '~/composables/useFinds'

/** The found items by folder: the subfolders of the place that the sentence names, then everything inside it. */
const props = defineProps<{ finds: Finds; listing: number; opened: number | null }>()
const filter = defineModel<FindFilter>({ required: true })
const emit = defineEmits<{ open: [find: number] }>()
const store = useBenchStore()
const session = useSessionStore()
const folders = shallowRef<FindFolder[]>([])
const trouble = ref<string | null>(null)
let asked = 0

watch(
  [() => props.listing, filter, () => props.finds.counts.value],
  async () => {
    const own = ++asked
    try {
      const found = await below(filter.value)
      if (own !== asked) return
      folders.value = found
      trouble.value = null
    } catch (error) {
      if (own === asked) trouble.value = failureWords(error)
    }
  },
  { immediate: true },
)
const SEPARATOR = ' / '
const MAX_DEEP = 12

/** The subfolders of a place; a chain of folders with only one subfolder each is shown as one. */
async function below(from: FindFilter, deep = 0): Promise<FindFolder[]> {
  const path = store.path(`/listings/${props.listing}/folders?${queryOf(from)}`)
  const { folders: found } = await api(FolderList, 'GET', path)
  const [only] = found
  if (found.length !== 1 || only!.count !== props.finds.counts.value?.matching || deep === MAX_DEEP) return found
  const further = await below({ ...from, place: only!.place }, deep + 1)
  if (further.length === 0) return found
  return further.map((one) => ({ ...one, name: `${only!.name}${SEPARATOR}${one.name}` }))
}
const trail = computed(() => {
  const parts = filter.value.place?.split(SEPARATOR) ?? []
  return parts.map((name, at) => ({ name, place: parts.slice(0, at + 1).join(SEPARATOR) }))
})
const go = (place: string | undefined) => (filter.value = { ...filter.value, place })
async function mark(folder: FindFolder) {
  const inside = { ...filter.value, place: folder.place }
  await props.finds.select({ filter: inside }, folder.selected < folder.count)
}
</script>

<template>
  <div class="folders">
    <nav aria-label="Folders above" class="flex flex-wrap items-center gap-1 py-1 text-[14.5px]">
      <button type="button" class="crumb" :disabled="trail.length === 0" @click="go(undefined)">
        the whole medium
      </button>
      <template v-for="(one, at) in trail" :key="one.place">
        <span aria-hidden="true" class="text-soft">/</span>
        <button type="button" class="crumb" :disabled="at === trail.length - 1" @click="go(one.place)">
          {{ one.name }}
        </button>
      </template>
    </nav>
    <p v-if="trouble" role="alert" class="text-russet-ink">{{ trouble }}</p>
    <ul
      v-if="folders.length > 0"
      aria-label="Folders"
      class="max-h-[40%] min-h-[34px] overflow-y-auto"
      data-test="folders"
    >
      <li
        v-for="folder in folders"
        :key="folder.place"
        class="flex min-h-[34px] items-center gap-4 border-t border-line text-[14.5px]"
      >
        <button
          type="button"
          class="min-w-0 flex-1 truncate py-1 text-left underline decoration-dotted underline-offset-4"
          :title="folder.name"
          @click="go(folder.place)"
        >
          {{ folder.name }}
        </button>
        <span class="figure text-[13px]">{{ numberWords(folder.count) }}</span>
        <span class="figure w-[76px] text-right text-[13px] text-soft">{{ sizeWords(folder.bytes) }}</span>
        <button
          v-if="session.may('work')"
          type="button"
          class="quiet-action mr-2 w-[92px] justify-center text-[13.5px]"
          :aria-label="`${folder.selected < folder.count ? 'Select' : 'Deselect'} all in ${folder.name}`"
          @click="mark(folder)"
        >
          {{
            folder.selected === 0
              ? 'Select'
              : folder.selected < folder.count
                ? `Select ${folder.count - folder.selected}`
                : 'Deselect'
          }}
        </button>
      </li>
    </ul>
    <FoundRows :finds="finds" :opened="opened" class="min-h-0 flex-1" @open="(id: number) => emit('open', id)" />
  </div>
</template>

<style scoped>
.folders {
  display: flex;
  flex-direction: column;
  height: 100%;
  min-height: 0;
}
.crumb {
  min-height: 26px;
  padding: 0 4px;
  color: var(--russet-ink);
  text-decoration: underline dotted;
  text-underline-offset: 4px;
}
.crumb:disabled {
  color: var(--ink);
  font-weight: 700;
  text-decoration: none;
}
</style>
