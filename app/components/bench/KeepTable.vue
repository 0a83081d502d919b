<script setup lang="ts">
import type { Keep } from '~~/core/bench/keep'
import type { LinkState } from '~~/core/bench/state'
import { KEEP_WORDS, typesWords } from '~~/core/bench/words'

/** The places of a link, one a row, each of which can be listed. */
const props = defineProps<{ link: LinkState }>()
const emit = defineEmits<{ list: [keep: string]; turnBack: [keep: string] }>()
const store = useBenchStore()
const session = useSessionStore()
const clock = useClockWords()
const FEW = 8
const isWhole = ref(false)

/** Backups are chosen among in a list of their own. */
const keeps = computed(() =>
  props.link.keeps
    .filter((keep) => keep.kind !== 'backup')
    .toSorted((one, other) => (one.asOf && other.asOf ? (one.asOf < other.asOf ? 1 : -1) : 0)),
)
const shown = computed(() => (isWhole.value ? keeps.value : keeps.value.slice(0, FEW)))

function countWords(keep: Keep): string {
  if (!keep.isOn) return 'was never switched on'
  if (keep.closed !== null) return 'closed'
  if (keep.kind === 'apps') return countOf(keep.count, 'database')
  return keep.count === 0 ? 'empty' : `${countOf(keep.count, 'item')}, ${sizeWords(keep.bytes)}`
}
const kindWords = (keep: Keep) =>
  KEEP_WORDS[keep.kind] + (keep.periodDays !== null && keep.isOn ? `, for ${keep.periodDays} days` : '')
const canList = (keep: Keep) => keep.isOn && keep.closed === null && keep.count > 0
const listingOf = (keep: Keep) =>
  store.bench?.listings.find((listing) => listing.link === props.link.id && listing.keep === keep.id) ?? null
</script>

<template>
  <table v-if="keeps.length > 0" class="w-full text-[14.5px]" data-test="keeps">
    <caption class="sr-only">Contents</caption>
    <thead class="text-left text-[13px] text-soft">
      <tr>
        <th scope="col" class="py-1 font-normal">place</th>
        <th scope="col" class="font-normal">contains</th>
        <th scope="col" class="font-normal">as of</th>
        <th scope="col"><span class="sr-only">action</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="keep in shown" :key="keep.id" class="border-t border-line align-top">
        <th scope="row" class="py-1.5 pr-3 text-left">
          {{ keep.title }}
          <span class="block text-[13px] font-normal text-soft">
            {{ kindWords(keep) }}
          </span>
        </th>
        <td class="py-1.5 pr-3">
          {{ countWords(keep) }}
          <span class="block text-[13px] text-soft">{{ keep.closed ?? typesWords(keep.types) }}</span>
        </td>
        <td class="figure py-2 pr-3 text-[13px]">
          {{ keep.asOf ? clock.momentOf(keep.asOf) : 'now' }}
          <template v-if="keep.until">, until {{ clock.momentOf(keep.until) }}</template>
        </td>
        <td class="py-1.5 text-right">
          <button
            v-if="keep.kind === 'earlier-state' && session.may('work')"
            type="button"
            class="quiet-action mr-2"
            :aria-label="`Turn back to ${keep.asOf ? clock.momentOf(keep.asOf) : keep.title}`"
            @click="emit('turnBack', keep.id)"
          >
            Turn back …
          </button>
          <button
            v-if="canList(keep)"
            type="button"
            class="quiet-action"
            :disabled="store.isBusy || !session.may('work')"
            :aria-label="`List ${keep.title}${keep.asOf ? ` of ${clock.momentOf(keep.asOf)}` : ''}`"
            @click="emit('list', keep.id)"
          >
            {{ listingOf(keep) ? 'List again' : 'List' }}
          </button>
        </td>
      </tr>
    </tbody>
  </table>
  <button
    v-if="keeps.length > FEW"
    type="button"
    class="mt-1 min-h-[24px] text-[14px] text-russet-ink underline decoration-dotted"
    :aria-expanded="isWhole"
    @click="isWhole = !isWhole"
  >
    {{ isWhole ? 'Show less' : `Show all ${keeps.length} places` }}
  </button>
</template>
