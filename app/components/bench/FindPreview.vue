<script setup lang="ts">
import { FindOpened } from '~~/core/bench/answers'
import type { Find } from '~~/core/bench/filter'
import type { Evidence } from '~~/core/bench/medium'

/** One item: its content, its location and the checks that it passed. */
const props = defineProps<{ listing: number; find: number }>()
const store = useBenchStore()
const clock = useClockWords()
const now = useServerNow()

/** For a fragmented item, only the number of fragments is shown. */
const MAX_PLACES = 4

interface Preview {
  as: 'image' | 'audio' | 'video' | 'pdf' | 'text' | 'table' | 'record' | 'none'
  text?: string
  encoding?: string
  rows?: string[][]
  isCut?: boolean
  why?: string
}
const shown = shallowRef<{ find: Find; preview: Preview } | null>(null)
const trouble = ref<string | null>(null)
const hasBroken = ref(false)

watch(
  () => [props.listing, props.find],
  async () => {
    const asked = props.find
    hasBroken.value = false
    try {
      const answer = await api(FindOpened, 'GET', store.path(`/listings/${props.listing}/finds/${asked}`))
      if (asked === props.find) shown.value = answer
      trouble.value = null
    } catch (error) {
      trouble.value = failureWords(error)
    }
  },
  { immediate: true },
)
const address = computed(() => store.path(`/listings/${props.listing}/finds/${props.find}/content`))
const WHOLE = {
  intact: ['yes', 'recovered from intact file-system records'],
  unverified: ['not verified', 'no damage detected'],
  partial: ['no', 'damaged or incomplete'],
  overwritten: ['no', 'overwritten'],
} as const
const FOUND_BY = { quick: 'file-system records', deep: 'content' }
/** Its location on the medium, and how it was found. */
function evidenceOf({ extents, foundBy }: Evidence): [string, string][] {
  const places = extents.filter(([offset]) => offset >= 0).map(([offset]) => `0x${offset.toString(16).toUpperCase()}`)
  const first = places.slice(0, MAX_PLACES).join(', ')
  const more = places.length > MAX_PLACES ? ` and ${places.length - MAX_PLACES} more` : ''
  return [
    ['location', places.length === 0 ? 'location not recorded' : `${countOf(places.length, 'piece')}: ${first}${more}`],
    ['found by', foundBy.map((pass) => FOUND_BY[pass]).join(' and ')],
  ]
}
const facts = computed(() => {
  const find = shown.value?.find
  if (!find) return []
  return [
    ['name', find.name],
    [
      'made',
      find.made
        ? clock.momentOf(find.made)
        : find.changed
          ? `${clock.momentOf(find.changed)}, last change`
          : 'not known',
    ],
    ['intact?', `${WHOLE[find.whole][0]}: ${find.evidence?.checks.join('; ') || WHOLE[find.whole][1]}`],
    ['folder', [find.keepTitle, ...find.place].join(' / ')],
    ...(find.evidence ? evidenceOf(find.evidence) : []),
    ...(find.deleted ? [['deleted', clock.momentOf(find.deleted)]] : []),
    ...(find.goneAt ? [['bin', clock.leftOf(find.goneAt, now.value)]] : []),
    ...(find.isReduced ? [['size', 'a smaller copy of the original']] : []),
    ...(find.kept
      ? [
          [
            'kept',
            { device: 'on the device only', both: 'on the device and in the cloud', cloud: 'in the cloud only' }[
              find.kept
            ],
          ],
        ]
      : []),
    ['size', sizeWords(find.bytes)],
  ] as [string, string][]
})
</script>

<template>
  <section aria-label="Preview" data-test="preview">
    <p v-if="trouble" role="alert" class="text-russet-ink">{{ trouble }}</p>
    <template v-if="shown">
      <div class="mb-2">
        <p v-if="hasBroken" class="border border-line p-3 text-russet-ink">It is too damaged to show.</p>
        <img
          v-else-if="shown.preview.as === 'image'"
          :src="address"
          :alt="shown.find.name"
          class="max-h-[230px] w-full bg-dusk object-contain"
          data-test="picture"
          @error="hasBroken = true"
        />
        <FilmView
          v-else-if="shown.preview.as === 'video'"
          :address="address"
          :name="shown.find.name"
          :bytes="shown.find.bytes"
          @broken="hasBroken = true"
        />
        <SoundWave v-else-if="shown.preview.as === 'audio'" :address="address" :bytes="shown.find.bytes" />
        <LazyPdfPages v-else-if="shown.preview.as === 'pdf'" :address="address" />
        <RecordCard
          v-else-if="shown.preview.as === 'record' && shown.find.record"
          :record="shown.find.record"
          :listing="listing"
        />
        <div
          v-else-if="shown.preview.as === 'table'"
          class="max-h-[260px] overflow-auto border border-line bg-sheet"
          tabindex="0"
          aria-label="Table"
        >
          <table class="text-[13px]" data-test="sheet">
            <tbody>
              <tr v-for="(row, at) in shown.preview.rows" :key="at" class="border-b border-line">
                <td v-for="(cell, column) in row" :key="column" class="whitespace-nowrap px-2 py-0.5">{{ cell }}</td>
              </tr>
            </tbody>
          </table>
        </div>
        <div v-else-if="shown.preview.as === 'text'">
          <pre
            class="max-h-[260px] overflow-auto whitespace-pre-wrap break-words border border-line bg-sheet p-2 text-[13px]"
            tabindex="0"
            data-test="text"
            >{{ shown.preview.text }}</pre>
          <p class="text-[12.5px] text-soft">
            read as {{ shown.preview.encoding }}{{ shown.preview.isCut ? '; the beginning only' : '' }}
          </p>
        </div>
        <p v-else class="border border-line p-3 text-soft">{{ shown.preview.why }}</p>
      </div>
      <dl class="facts">
        <template v-for="[term, is] in facts" :key="term + is">
          <dt>{{ term }}</dt>
          <dd>{{ is }}</dd>
        </template>
      </dl>
    </template>
  </section>
</template>

<style scoped>
.facts {
  display: grid;
  grid-template-columns: 62px minmax(0, 1fr);
  gap: 1px 10px;
  font-size: 13.5px;
}
.facts dt {
  color: var(--soft);
}
.facts dd {
  overflow-wrap: anywhere;
}
</style>
