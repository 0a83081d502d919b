<script setup lang="ts">
import type { Listing } from '~~/core/bench/bench'
import { endsOf } from '~~/core/bench/days'
import type { FindFilter } from '~~/core/bench/filter'
import { viewsOf, type FoundView } from '~~/core/bench/next'
import type { Finds } from '~/composables/useFinds'

/** A listing: the sentence that filters it, its items by day, by folder or as a list, and selecting them. */
const props = defineProps<{
  listing: Listing
  finds: Finds
  opened: number | null
  isMedium: boolean
  /** a pass over the medium adds to the list as it goes */
  isGrowing: boolean
}>()
const filter = defineModel<FindFilter>({ required: true })
const emit = defineEmits<{ open: [find: number]; back: []; again: [] }>()
const session = useSessionStore()

const chosenView = ref<FoundView | null>(null)
const allViews = computed(() => viewsOf(props.finds.counts.value, filter.value, props.isMedium))
const shownView = computed(() => chosenView.value ?? allViews.value[0]!)
const VIEW_WORDS: Record<FoundView, string> = { days: 'By day', folders: 'By folder', list: 'As a list' }
const otherViews = computed(() => allViews.value.filter((one) => one !== shownView.value))
/**
 * The button selects no more than it says: it waits while a listing grows and while its count belongs to another
 * filter.
 */
const matching = computed(() => props.finds.counts.value?.matching ?? 0)
const canSelectAll = computed(
  () => props.finds.isOfFilter.value && matching.value > 0 && (props.isMedium || props.listing.state !== 'listing'),
)
/** Nothing is selected yet: that is the next thing to do. */
const isNextToSelect = computed(() => {
  const counts = props.finds.counts.value
  return props.isMedium && !props.isGrowing && counts !== null && counts.matching > 0 && counts.selected === 0
})

/** A day chosen in the days view: its items as a list. */
function openDay(day: string) {
  const { first, last } = endsOf(day)
  filter.value =
    day === 'none'
      ? { ...filter.value, isUndated: true, fromDay: undefined, toDay: undefined }
      : { ...filter.value, isUndated: undefined, fromDay: first, toDay: last }
  chosenView.value = 'list'
}
</script>

<template>
  <div class="found-panel">
    <div class="flex flex-wrap items-start gap-x-5 gap-y-1 border-b border-line pb-2">
      <button v-if="!isMedium" type="button" class="quiet-action mt-1" @click="emit('back')">
        ‹ {{ listing.title }}
      </button>
      <FoundSentence v-model="filter" :counts="finds.counts.value" class="min-w-0 flex-1" />
    </div>
    <p v-if="finds.trouble.value" role="alert" class="text-russet-ink">{{ finds.trouble.value }}</p>
    <p v-if="listing.state === 'listing' && !isMedium" role="status" class="py-1 text-[14px] text-soft">
      Listing … {{ countOf(listing.total, 'item') }} so far
    </p>
    <p v-if="listing.state === 'broken-off'" role="alert" class="py-1 text-[14px] text-russet-ink">
      {{ listing.says }} Items listed before the interruption are shown.
      <button type="button" class="underline decoration-dotted" @click="emit('again')">List again</button>
    </p>
    <p
      v-if="finds.counts.value && finds.counts.value.matching === 0 && listing.state !== 'listing'"
      class="py-8 text-[16px]"
    >
      {{ finds.counts.value.total === 0 ? 'It is empty.' : 'No items match the filter.' }}
      <button
        v-if="finds.counts.value.total > 0"
        type="button"
        class="underline decoration-dotted"
        @click="filter = {}"
      >
        Show all {{ numberWords(finds.counts.value.total) }}
      </button>
    </p>
    <div v-else class="found">
      <FoundDays
        v-if="shownView === 'days'"
        :finds="finds"
        :listing="listing.id"
        :opened="opened"
        @open="(id: number) => emit('open', id)"
        @day="openDay"
      />
      <FoundFolders
        v-else-if="shownView === 'folders'"
        v-model="filter"
        :finds="finds"
        :listing="listing.id"
        :opened="opened"
        @open="(id: number) => emit('open', id)"
      />
      <FoundRows v-else :finds="finds" :opened="opened" @open="(id: number) => emit('open', id)" />
    </div>
    <p class="flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-line pt-2 text-[13.5px] text-soft">
      <button
        v-if="session.may('work')"
        type="button"
        class="quiet-action"
        :class="{ 'next-action': isNextToSelect }"
        data-test="select-all"
        :disabled="!canSelectAll"
        @click="finds.select({ filter }, !(filter.isSelected ?? false))"
      >
        Select all {{ numberWords(matching) }}
      </button>
      <button v-if="session.may('work')" type="button" class="quiet-action" @click="finds.select({ filter }, false)">
        Clear selection
      </button>
      <button v-for="one in otherViews" :key="one" type="button" class="quiet-action" @click="chosenView = one">
        {{ VIEW_WORDS[one] }}
      </button>
      <span>
        <kbd class="key-cap">Space</kbd>
        select
      </span>
      <span v-if="shownView === 'days'">
        <kbd class="key-cap">Shift Space</kbd>
        select the day
      </span>
      <span>
        <kbd class="key-cap">Enter</kbd>
        preview
      </span>
      <ExplainPicture
        v-if="shownView === 'days'"
        picture="the days"
        words="One row for each day on which items were made, the newest first, with its pictures. The bar shows how many were found of those that the case expects of that day; a day without a row of pictures is a gap. Choose a day to see only its items."
      />
    </p>
  </div>
</template>

<style scoped>
.found-panel {
  display: flex;
  flex-direction: column;
  flex: 1;
  min-height: 0;
}
.found {
  flex: 1;
  min-height: 0;
  margin-right: -18px;
}
.next-action {
  border: 2px solid var(--russet);
  color: var(--russet-ink);
  font-family: var(--font-head);
  font-weight: 650;
}
@media (max-width: 900px) {
  .found {
    min-height: 60vh;
  }
}
</style>
