<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { timeWords } from '~~/core/local/dates'
import { isMonthFirst } from '~~/core/local/language'
import { dayLines, gapOf, type DayLine } from '~~/core/bench/day-lines'
import type { Find, FindDay } from '~~/core/bench/filter'
import type { Finds } from '~/composables/useFinds'

/** The found items by the day on which they were created, beside what is expected of that day. */
const props = defineProps<{ finds: Finds; listing: number; opened: number | null }>()
const emit = defineEmits<{ open: [find: number]; day: [day: string] }>()
const store = useBenchStore()
const session = useSessionStore()
const scroller = useTemplateRef<HTMLElement>('scroller')
const ROW = 70

const days = computed(() => dayLines(props.finds.counts.value?.days ?? []))
const virtual = useVirtualizer(
  computed(() => ({
    count: days.value.length,
    getScrollElement: () => scroller.value,
    estimateSize: () => ROW,
    overscan: 4,
  })),
)
const rows = computed(() =>
  virtual.value.getVirtualItems().flatMap((row) => {
    const day = days.value[row.index]
    return day ? [{ ...row, day, gap: gapOf(day), finds: props.finds.days.value.get(keyOf(day)) ?? [] }] : []
  }),
)
const keyOf = (day: FindDay) => day.day ?? 'none'
watch(
  [rows, () => props.finds.counts.value],
  () => void props.finds.needDays(rows.value.filter((row) => row.day.count > 0).map((row) => keyOf(row.day))),
  { immediate: true },
)

const lineWords = ({ day, until }: DayLine) => (until === null ? dayWords(day) : spanWords(until, day!))
/** "12 to 15 Nov": days in a row, in as few words as they take. */
function spanWords(from: string, to: string): string {
  if (from.length === 7) return `${dayWords(from)} to ${dayWords(to)}`
  const isOneMonth = from.slice(0, 7) === to.slice(0, 7) && !isMonthFirst()
  return `${timeWords(from, 'UTC', isOneMonth ? 'd' : 'd MMM')} to ${timeWords(to, 'UTC', 'd MMM')}`
}
function dayWords(day: string | null): string {
  if (day === null) return 'No date'
  return day.length === 7 ? timeWords(`${day}-01`, 'UTC', 'MMM yyyy') : timeWords(day, 'UTC', 'EEE d MMM')
}
const thisYear = String(new Date(session.now()).getUTCFullYear())
const otherYear = (day: string | null) => (day && day.length > 7 && !day.startsWith(thisYear) ? day.slice(0, 4) : null)
const GAP_WORDS = { all: 'none found', part: 'part is missing' }
const barWidth = (day: FindDay) =>
  `${Math.min(100, day.expected ? (100 * day.count) / Math.max(day.expected, day.count) : 100)}%`

/** Tab reaches one thumbnail; the arrow keys move between them. */
const focused = ref<{ day: string; at: number }>({ day: '', at: 0 })
const isFocusable = (row: { day: FindDay; index: number }, at: number) =>
  focused.value.day === ''
    ? row.index === days.value.findIndex((day) => day.count > 0) && at === 0
    : focused.value.day === keyOf(row.day) && focused.value.at === at

async function go(row: number, at: number) {
  const day = days.value[row]
  if (!day) return
  const thumbAt = () => {
    const count = props.finds.days.value.get(keyOf(day))?.length ?? 0
    return Math.max(0, Math.min(at, count - 1))
  }
  const focus = () => {
    focused.value = { day: keyOf(day), at: thumbAt() }
    const thumb = scroller.value?.querySelector<HTMLElement>(`[data-thumb="${keyOf(day)} ${thumbAt()}"]`)
    thumb?.focus()
    return thumb !== null && thumb !== undefined
  }
  // What is visible gets the focus at once, so that the next key works on it.
  if (focus()) return
  virtual.value.scrollToIndex(row, { align: 'auto' })
  await props.finds.needDays([keyOf(day)])
  await nextTick()
  focus()
}
/** The next day with something in it. */
function dayFrom(row: number, by: number): number {
  let next = row + by
  while (days.value[next] && days.value[next]!.count === 0) next += by
  return days.value[next] ? next : row
}
function keys(event: KeyboardEvent, row: number, at: number, find: Find) {
  const moves: Record<string, () => void> = {
    ArrowRight: () => void go(row, at + 1),
    ArrowLeft: () => void go(row, at - 1),
    ArrowDown: () => void go(dayFrom(row, 1), at),
    ArrowUp: () => void go(dayFrom(row, -1), at),
    Home: () => void go(row, 0),
    End: () => void go(row, 999),
    Enter: () => emit('open', find.find),
    ' ': () =>
      event.shiftKey ? selectDay(days.value[row]!) : void props.finds.select({ finds: [find.find] }, !find.isSelected),
  }
  const act = moves[event.key]
  if (!act) return
  event.preventDefault()
  act()
}
const selectDay = (day: FindDay) => void props.finds.select({ day: day.day }, day.selected < day.count)
/** Items without a thumbnail show their name. */
const pictureless = shallowRef(new Set<number>())
const thumbOf = (find: Find) => `${store.path(`/listings/${props.listing}/finds/${find.find}/thumb`)}`
const stateWords = (find: Find) =>
  `${find.name}${find.isSelected ? ', selected' : ''}${find.whole === 'partial' ? ', damaged' : ''}${find.onShelf === 'verified' ? ', on the shelf' : ''}`
</script>

<template>
  <div ref="scroller" class="days" data-test="days" tabindex="-1">
    <div
      role="grid"
      aria-label="Found items by day"
      aria-multiselectable="true"
      :aria-rowcount="days.length"
      :style="{ height: `${virtual.getTotalSize()}px`, position: 'relative' }"
    >
      <div
        v-for="row in rows"
        :key="keyOf(row.day)"
        role="row"
        :aria-rowindex="row.index + 1"
        class="day"
        :style="{ transform: `translateY(${row.start}px)` }"
      >
        <div role="rowheader" class="w-[92px] shrink-0">
          <strong class="block text-[15px] leading-tight">{{ lineWords(row.day) }}</strong>
          <span class="text-[12.5px]" :class="row.gap ? 'text-russet-ink' : 'text-soft'">
            {{ row.gap ? GAP_WORDS[row.gap] : otherYear(row.day.day) }}
          </span>
        </div>
        <div class="thumbs">
          <div
            v-for="(find, at) in row.finds"
            :key="find.find"
            role="gridcell"
            :tabindex="isFocusable(row, at) ? 0 : -1"
            :data-thumb="`${keyOf(row.day)} ${at}`"
            :aria-selected="find.isSelected"
            :aria-label="stateWords(find)"
            class="thumb"
            :class="{ opened: find.find === opened, held: find.onShelf === 'verified' }"
            @click="emit('open', find.find)"
            @focus="focused = { day: keyOf(row.day), at }"
            @keydown="keys($event, row.index, at, find)"
          >
            <img
              v-if="find.type === 'photos' && find.whole !== 'overwritten' && !pictureless.has(find.find)"
              :src="thumbOf(find)"
              alt=""
              loading="lazy"
              draggable="false"
              @error="pictureless = new Set(pictureless).add(find.find)"
            />
            <span v-else class="name">{{ find.name }}</span>
            <button
              v-if="session.may('work')"
              type="button"
              tabindex="-1"
              class="mark"
              :class="{ on: find.isSelected }"
              :aria-label="find.isSelected ? `Deselect ${find.name}` : `Select ${find.name}`"
              @click.stop="finds.select({ finds: [find.find] }, !find.isSelected)"
            />
            <span v-if="find.whole === 'partial'" class="torn" aria-hidden="true" />
          </div>
        </div>
        <div role="gridcell" class="w-[104px] shrink-0 text-[13.5px]">
          <button
            v-if="row.day.count > row.finds.length && row.finds.length > 0"
            type="button"
            class="text-russet-ink underline decoration-dotted"
            @click="emit('day', row.day.day ?? 'none')"
          >
            {{ row.day.count - row.finds.length }} more
          </button>
          <span class="block">
            <strong class="figure">{{ row.day.count }}</strong>
            <template v-if="row.day.expected !== null && row.day.expected >= 0.5">
              of ~{{ Math.round(row.day.expected) }}
            </template>
          </span>
          <span class="bar" aria-hidden="true"><span :style="{ width: barWidth(row.day) }" /></span>
        </div>
      </div>
    </div>
  </div>
</template>

<style scoped>
.days {
  height: 100%;
  overflow-y: auto;
  contain: strict;
}
.day {
  position: absolute;
  inset: 0 0 auto;
  height: 70px;
  display: flex;
  align-items: center;
  gap: 12px;
  border-top: 1px solid var(--line);
  padding-right: 14px;
}
.thumbs {
  flex: 1;
  min-width: 0;
  display: flex;
  gap: 4px;
  flex-wrap: wrap;
  height: 52px;
  overflow: hidden;
}
.thumb {
  position: relative;
  width: 42px;
  height: 52px;
  background: var(--trough);
  cursor: pointer;
  overflow: hidden;
}
.thumb:focus-visible {
  outline-offset: -2px;
}
.thumb img {
  width: 100%;
  height: 100%;
  object-fit: cover;
}
.thumb.opened {
  box-shadow: inset 0 0 0 3px var(--russet);
}
.thumb.opened img {
  opacity: 0.75;
}
.name {
  display: block;
  padding: 2px;
  font-size: 10.5px;
  line-height: 1.15;
  overflow-wrap: anywhere;
}
.mark {
  position: absolute;
  right: 0;
  bottom: 0;
  width: 24px;
  height: 24px;
}
.mark::after {
  content: '';
  position: absolute;
  right: 3px;
  bottom: 3px;
  width: 12px;
  height: 12px;
  border-radius: 50%;
  border: 2px solid #fff8ee;
  background: rgb(43 33 29 / 45%);
}
.mark.on::after {
  background: #235a56;
}
.held::before {
  content: '';
  position: absolute;
  inset: auto 0 0;
  height: 4px;
  background: var(--held);
  z-index: 1;
}
.torn {
  position: absolute;
  inset: auto 0 0;
  height: 34%;
  background: repeating-linear-gradient(135deg, var(--paper) 0 3px, var(--soft) 3px 4px);
  clip-path: polygon(0 40%, 100% 0, 100% 100%, 0 100%);
}
.bar {
  display: block;
  width: 70px;
  height: 5px;
  margin-top: 2px;
  background: var(--trough);
}
.bar > span {
  display: block;
  height: 100%;
  background: var(--lamp);
}
</style>
