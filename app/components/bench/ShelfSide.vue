<script setup lang="ts">
import { FindPage, type FindCounts } from '~~/core/bench/filter'
import { TYPE_WORDS } from '~~/core/cases/telling/words'
import { openingStop } from '~~/core/cases/shape/permission'
import { ShelfList } from '~~/core/bench/shelf'
import type { LinkState } from '~~/core/bench/state'

/** The case's shelf: what is selected, copying it, what is there and read back, and putting it back. */
const props = defineProps<{ listing: number | null; counts: FindCounts | null; link: LinkState | null }>()
const emit = defineEmits<{ copied: []; inPlace: [from: string, items: string[]] }>()
const bench = useBenchStore()
const session = useSessionStore()
const shelf = computed(() => bench.bench?.shelf ?? null)
const isCopying = computed(() => shelf.value?.job?.state === 'running')
const total = computed(() => (shelf.value ? shelf.value.waiting + shelf.value.copied + shelf.value.verified : 0))
const selected = computed(() => props.counts?.selected ?? 0)

async function copy() {
  if (props.listing !== null && selected.value > 0 && (await bench.copy(props.listing))) emit('copied')
}
watch(isCopying, (now, before) => {
  if (before && !now) emit('copied')
})
useSingleKeys({ c: ['copy the selected items to the shelf', () => void copy()] })

const list = ref<ShelfList | null>(null)
const items = computed(() => list.value?.items ?? null)
const exports = computed(() =>
  (list.value?.exports ?? []).map(({ type, kind, format, title }) => ({
    key: `${kind} ${format}`,
    words: `${TYPE_WORDS[type]} as ${title}`,
    address: bench.path(`/shelf/export?as=${format}&kind=${kind}`),
  })),
)
/** Where nothing may be opened, the shelf is no exception. */
const isStopped = computed(() => openingStop(useOpenCaseStore().asItIs) !== null)
async function load() {
  if (isStopped.value) return (list.value = null)
  try {
    list.value = await api(ShelfList, 'GET', bench.path('/shelf'))
  } catch (error) {
    tellFailure(error)
  }
}
watch([() => shelf.value?.verified, () => shelf.value?.failed, () => bench.code, isStopped], () => void load(), {
  immediate: true,
})
const failed = computed(() => items.value?.filter((one) => one.state === 'failed') ?? [])

/**
 * Where items go when they are restored to the link: records into its apps, pictures into its library, files among its
 * files.
 */
const home = computed(() => {
  const { link } = props
  if (!link || link.kind === 'backups' || link.kind === 'batch') return null
  const types = new Set(items.value?.filter((one) => one.state === 'verified').map((one) => one.type))
  return (
    link.keeps.find(
      (keep) =>
        ['library', 'apps', 'files'].includes(keep.kind) &&
        keep.asOf === null &&
        keep.closed === null &&
        keep.types.some((type) => types.has(type)),
    ) ?? null
  )
})
const fitting = computed(
  () =>
    items.value?.filter((one) => one.state === 'verified' && home.value?.types.some((type) => type === one.type)) ?? [],
)
async function putBack(ids: number[]) {
  if (props.link && home.value && (await bench.putBack(props.link.id, home.value.id, ids))) isChoosing.value = false
}
const isChoosing = ref(false)
/** The bin that is listed, where its items can be put back in their own place. */
const bin = computed(() => {
  const keep = bench.bench?.listings.find(({ id }) => id === props.listing)?.keep
  const isOffered = props.link?.actions.some(({ action }) => action === 'put-back-from-bin') ?? false
  return isOffered ? (props.link?.keeps.find((one) => one.id === keep && one.kind === 'bin') ?? null) : null
})
/** The selected items, once every one of them is safe on the shelf. */
async function putInPlace() {
  if (!props.link || !bin.value || props.listing === null) return
  const items: string[] = []
  let isSafe = true
  try {
    for (let from = 0; ; from += PAGE) {
      const query = `isSelected=true&limit=${PAGE}&offset=${from}`
      const { finds } = await api(FindPage, 'GET', bench.path(`/listings/${props.listing}?${query}`))
      items.push(...finds.map(({ id }) => id))
      isSafe &&= finds.every(({ onShelf }) => onShelf === 'verified')
      if (finds.length < PAGE) break
    }
  } catch (error) {
    return tellFailure(error)
  }
  if (isSafe) emit('inPlace', `${props.link.id}/${bin.value.id}`, items)
  else tellDone('Copy them to the shelf first: nothing is put back before its copy is safe.')
}
const PAGE = 500
const isHandingOut = ref(false)
const handout = computed(() => shelf.value?.handout ?? null)
</script>

<template>
  <section v-if="shelf" aria-labelledby="shelf" class="border-t-[3px] border-russet pt-2" data-test="shelf">
    <h2 id="shelf" class="text-[18px]">Shelf {{ bench.code }}</h2>
    <p class="text-[14px]" aria-live="polite" data-test="shelf-says">
      <template v-if="isCopying">{{ shelf.verified }} of {{ total }} copied and read back</template>
      <template v-else-if="shelf.verified > 0">
        <strong class="text-held">✓ {{ countOf(shelf.verified, 'item') }}</strong>
        on it, read back, {{ sizeWords(shelf.bytes) }}
        <span v-if="shelf.damaged > 0" class="text-russet-ink">· {{ shelf.damaged }} damaged</span>
        <span v-if="shelf.unverified > 0" class="text-soft">· {{ shelf.unverified }} not verified</span>
      </template>
      <span v-else class="text-soft">Empty. Copies are read back and compared with their checksums.</span>
    </p>
    <progress v-if="isCopying" :value="shelf.verified" :max="total" class="w-full" aria-label="Copying to the shelf" />
    <p v-if="shelf.job?.state === 'stopped'" role="alert" class="mt-1 text-[14px] text-russet-ink">
      {{ shelf.job.says }}
    </p>
    <p v-if="shelf.job?.state === 'done' && shelf.job.says" class="mt-1 text-[14px] text-russet-ink">
      {{ shelf.job.says }}
    </p>
    <ul v-if="failed.length > 0" class="mt-1 text-[13.5px]">
      <li v-for="one in failed.slice(0, 4)" :key="one.id">
        <span class="text-russet-ink">not copied:</span>
        {{ one.name }}. {{ one.says }}
      </li>
    </ul>
    <template v-if="session.may('work')">
      <p v-if="listing !== null" class="mt-2 text-[14px]" data-test="selected">
        <strong class="figure">{{ selected }}</strong>
        selected here{{ counts && selected > 0 ? `, ${sizeWords(counts.selectedBytes)}` : '' }};
        {{ sizeWords(shelf.free) }} free
      </p>
      <button
        v-if="isCopying"
        type="button"
        class="quiet-action mt-1 w-full justify-center"
        @click="bench.stopCopying()"
      >
        Stop
      </button>
      <button
        v-else-if="shelf.job?.state === 'stopped' && shelf.waiting > 0"
        type="button"
        class="main-action mt-1 w-full"
        :disabled="bench.isBusy"
        @click="bench.resumeCopying()"
      >
        Resume copying {{ shelf.waiting }}
      </button>
      <button
        v-else-if="listing !== null"
        type="button"
        class="main-action mt-1 w-full"
        :disabled="selected === 0 || bench.isBusy"
        data-test="copy"
        @click="copy"
      >
        Copy to the shelf
        <KeyCap shipped="C" />
      </button>
      <button
        v-if="bin && selected > 0 && !isCopying"
        type="button"
        class="quiet-action mt-2 w-full justify-center"
        data-test="in-place"
        @click="putInPlace"
      >
        Put {{ selected }} back in their place …
      </button>
      <a
        v-if="shelf.verified > 0 && !isCopying && !isStopped"
        :href="bench.path('/shelf/bag')"
        download
        class="quiet-action mt-2 w-full justify-center"
        data-test="bag"
      >
        Download all, with checksums
      </a>
      <div v-if="handout?.state === 'running'" class="mt-2 text-[14px]" data-test="handing-out">
        <progress :value="handout.done" :max="handout.total" class="w-full" aria-label="Copying out of the house" />
        {{ handout.done }} of {{ handout.total }} copied to {{ handout.path }} and read back
        <button type="button" class="quiet-action" @click="bench.stopHandout()">Stop</button>
      </div>
      <template v-else-if="shelf.verified > 0 && !isCopying && !isStopped">
        <button
          type="button"
          class="quiet-action mt-2 w-full justify-center"
          data-test="hand-out"
          @click="isHandingOut = true"
        >
          Copy to a medium or folder …
        </button>
        <p v-if="handout?.state === 'done'" class="mt-1 break-words text-[13.5px] text-held" data-test="handed-out">
          ✓ {{ handout.total }} copied to {{ handout.path }}, read back
        </p>
        <p v-else-if="handout?.state === 'stopped'" role="alert" class="mt-1 text-[13.5px] text-russet-ink">
          {{ handout.says }}
        </p>
      </template>
      <details v-if="exports.length > 0" class="mt-3 text-[14px]">
        <summary class="min-h-[24px] cursor-pointer text-russet-ink underline decoration-dotted">
          Save as one file
        </summary>
        <ul class="mt-1">
          <li v-for="one in exports" :key="one.key">
            <a :href="one.address" download class="inline-block min-h-[24px] underline decoration-dotted">
              {{ one.words }}
            </a>
          </li>
        </ul>
      </details>
      <div v-if="home && fitting.length > 0 && !isCopying" class="mt-3 border-t border-line pt-2 text-[14px]">
        <button
          type="button"
          class="quiet-action w-full justify-center"
          :disabled="bench.isBusy"
          data-test="put-back"
          @click="isChoosing = true"
        >
          Put back on it …
        </button>
        <p class="mt-1 text-[13px] text-soft">Into “{{ home.title }}” of {{ link?.title }}.</p>
      </div>
    </template>
    <HandOut v-if="isHandingOut" @close="isHandingOut = false" />
    <PutBackChoice
      v-if="isChoosing && home && link"
      :items="fitting"
      :free="link.room?.free ?? null"
      :onto="link.title"
      :into="home.title"
      @close="isChoosing = false"
      @put-back="putBack"
    />
  </section>
</template>
