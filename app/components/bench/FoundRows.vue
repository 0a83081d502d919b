<script setup lang="ts">
import { recordSubtitle } from '~~/core/records/record'
import { useVirtualizer } from '@tanstack/vue-virtual'
import type { Find } from '~~/core/bench/filter'
import type { Finds } from '~/composables/useFinds'

/** The found items as a list, for those without a picture: names, threads, cards. Only visible rows are drawn. */
const props = defineProps<{ finds: Finds; opened: number | null }>()
const emit = defineEmits<{ open: [find: number] }>()
const session = useSessionStore()
const clock = useClockWords()
const now = useServerNow()
const scroller = useTemplateRef<HTMLElement>('scroller')
const ROW = 36

const count = computed(() => props.finds.counts.value?.matching ?? 0)
const virtual = useVirtualizer(
  computed(() => ({
    count: count.value,
    getScrollElement: () => scroller.value,
    estimateSize: () => ROW,
    overscan: 12,
  })),
)
const items = computed(() => virtual.value.getVirtualItems())
watch(
  [items, () => props.finds.pages.value],
  () => {
    const [first, last] = [items.value[0], items.value.at(-1)]
    if (first && last) void props.finds.needRows(first.index, last.index)
  },
  { immediate: true },
)
const rows = computed(() => items.value.map((row) => ({ ...row, find: props.finds.rowAt(row.index) })))

const focused = ref(0)
async function go(to: number) {
  const next = Math.max(0, Math.min(count.value - 1, to))
  focused.value = next
  virtual.value.scrollToIndex(next, { align: 'auto' })
  await props.finds.needRows(next, next)
  await nextTick()
  scroller.value?.querySelector<HTMLElement>(`[data-row="${next}"]`)?.focus()
}
function keys(event: KeyboardEvent, at: number, find: Find | null) {
  const acts: Record<string, () => void> = {
    ArrowDown: () => void go(at + 1),
    ArrowUp: () => void go(at - 1),
    PageDown: () => void go(at + 12),
    PageUp: () => void go(at - 12),
    Home: () => void go(0),
    End: () => void go(count.value - 1),
    Enter: () => find && emit('open', find.find),
    ' ': () => find && void props.finds.select({ finds: [find.find] }, !find.isSelected),
  }
  const act = acts[event.key]
  if (!act) return
  event.preventDefault()
  act()
}
const PRESENCE = { present: 'there', deleted: 'deleted', earlier: 'earlier' }
const WHOLE = { intact: 'whole', unverified: 'not verified', partial: 'damaged', overwritten: 'overwritten' }
const BY_CONTENT = new Set(['documents', 'spreadsheets', 'mail', 'files'])
/** Versions of a document differ by when they were saved, pictures by when they were taken. */
function dated(find: Find): string {
  const moment = BY_CONTENT.has(find.type) ? (find.changed ?? find.made) : (find.made ?? find.changed)
  return moment ? clock.momentOf(moment) : 'no date'
}
const besideName = ({ record, place }: Find) => (record ? recordSubtitle(record) : place.join(' / '))
</script>

<template>
  <div ref="scroller" class="list" data-test="list" tabindex="-1">
    <div
      role="grid"
      aria-label="Found items"
      aria-multiselectable="true"
      :aria-rowcount="count"
      :style="{ height: `${virtual.getTotalSize()}px`, position: 'relative' }"
    >
      <div
        v-for="{ index, start, find } in rows"
        :key="index"
        role="row"
        :aria-rowindex="index + 1"
        :aria-selected="find?.isSelected ?? false"
        :data-row="index"
        :tabindex="index === focused ? 0 : -1"
        class="row"
        :class="{ opened: find !== null && find.find === opened }"
        :style="{ transform: `translateY(${start}px)` }"
        @focus="focused = index"
        @click="find && emit('open', find.find)"
        @keydown="keys($event, index, find)"
      >
        <template v-if="find">
          <span role="gridcell" class="flex items-center">
            <input
              type="checkbox"
              tabindex="-1"
              class="size-4 accent-[var(--held)]"
              :checked="find.isSelected"
              :disabled="!session.may('work')"
              :aria-label="`Select ${find.name}`"
              @click.stop="finds.select({ finds: [find.find] }, !find.isSelected)"
            />
          </span>
          <span role="gridcell" class="truncate" :title="find.name">
            <strong class="font-normal">{{ find.name }}</strong>
            <span class="ml-2 text-[13px] text-soft">{{ besideName(find) }}</span>
          </span>
          <span role="gridcell" class="figure text-[13px]">
            {{ dated(find) }}
          </span>
          <span role="gridcell" class="figure text-right text-[13px]">{{ sizeWords(find.bytes) }}</span>
          <span
            role="gridcell"
            class="text-[13.5px]"
            :class="find.presence === 'present' ? 'text-soft' : 'text-russet-ink'"
          >
            {{ find.goneAt ? clock.leftOf(find.goneAt, now) : PRESENCE[find.presence] }}
          </span>
          <span role="gridcell" class="text-[13.5px]" :class="find.onShelf === 'verified' ? 'text-held' : ''">
            {{
              find.onShelf === 'verified'
                ? '✓ on the shelf'
                : find.onShelf === 'failed'
                  ? 'not copied'
                  : WHOLE[find.whole]
            }}
          </span>
        </template>
        <span v-else role="gridcell" class="col-span-6 text-soft">…</span>
      </div>
    </div>
  </div>
</template>

<style scoped>
.list {
  height: 100%;
  overflow-y: auto;
  contain: strict;
}
.row {
  position: absolute;
  inset: 0 0 auto;
  height: 36px;
  display: grid;
  grid-template-columns: 24px minmax(0, 1fr) 172px 76px 84px 104px;
  white-space: nowrap;
  gap: 10px;
  align-items: center;
  border-top: 1px solid var(--line);
  font-size: 14.5px;
  cursor: pointer;
}
.row:focus-visible {
  outline-offset: -2px;
}
.row.opened {
  background: var(--chosen);
}
@media (max-width: 1000px) {
  .row {
    grid-template-columns: 24px minmax(0, 1fr) 92px 96px;
  }
  .row > :nth-child(3),
  .row > :nth-child(4) {
    display: none;
  }
}
</style>
