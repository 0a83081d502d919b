<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import type { ShelfItem } from '~~/core/bench/shelf'

/** Which items go back on a device: all that fit, or a choice where room is short. */
const props = defineProps<{ items: readonly ShelfItem[]; free: number | null; onto: string; into: string }>()
const emit = defineEmits<{ close: []; putBack: [ids: number[]] }>()
const bench = useBenchStore()
const chosen = ref(new Set(fitting()))
const sought = ref('')
const shown = computed(() =>
  props.items.filter(({ name }) => name.toLowerCase().includes(sought.value.trim().toLowerCase())),
)
const bytes = computed(() => props.items.reduce((sum, item) => sum + (chosen.value.has(item.id) ? item.bytes : 0), 0))
const isShort = computed(() => props.free !== null && bytes.value > props.free)

/** The wanted items first, as many as there is room for. */
function fitting(): number[] {
  let left = props.free ?? Infinity
  return props.items
    .toSorted((one, other) => Number(other.wanted !== null) - Number(one.wanted !== null))
    .filter(({ bytes }) => bytes <= left && ((left -= bytes), true))
    .map(({ id }) => id)
}
function toggle(id: number) {
  const next = new Set(chosen.value)
  if (!next.delete(id)) next.add(id)
  chosen.value = next
}
const scroller = useTemplateRef<HTMLElement>('scroller')
const rows = useVirtualizer(
  computed(() => ({
    count: shown.value.length,
    getScrollElement: () => scroller.value,
    estimateSize: () => 34,
    overscan: 8,
  })),
)
</script>

<template>
  <ShopDialog
    :title="`Put back on ${onto}`"
    :verb="`Put ${chosen.size} back`"
    :is-busy="bench.isBusy"
    :is-ready="chosen.size > 0 && !isShort"
    is-wide
    @close="emit('close')"
    @done="emit('putBack', [...chosen])"
  >
    <p aria-live="polite" data-test="put-back-room">
      Into “{{ into }}”:
      <strong>{{ countOf(chosen.size, 'item') }}</strong>
      , {{ sizeWords(bytes) }}{{ free === null ? '' : `, of ${sizeWords(free)} free` }}.
      <strong v-if="isShort" class="text-russet-ink">▲ That does not fit.</strong>
    </p>
    <div class="flex flex-wrap gap-2">
      <button type="button" class="quiet-action" @click="chosen = new Set(items.map(({ id }) => id))">
        All {{ items.length }}
      </button>
      <button type="button" class="quiet-action" @click="chosen = new Set(fitting())">As many as fit</button>
      <button type="button" class="quiet-action" @click="chosen = new Set()">None</button>
      <input
        v-model="sought"
        class="field min-w-[160px] !w-auto flex-1"
        aria-label="Find by name"
        placeholder="find by name"
      />
    </div>
    <div
      ref="scroller"
      class="h-[300px] overflow-y-auto border border-line"
      tabindex="0"
      aria-label="Items of the shelf"
    >
      <div class="relative w-full" :style="{ height: `${rows.getTotalSize()}px` }">
        <label
          v-for="row in rows.getVirtualItems()"
          :key="shown[row.index]!.id"
          class="absolute flex h-[34px] w-full items-center gap-2.5 border-b border-line px-2 text-[14.5px]"
          :style="{ transform: `translateY(${row.start}px)` }"
        >
          <input
            type="checkbox"
            class="size-4 accent-[var(--russet)]"
            :checked="chosen.has(shown[row.index]!.id)"
            @change="toggle(shown[row.index]!.id)"
          />
          <span class="min-w-0 flex-1 truncate" :title="shown[row.index]!.path">{{ shown[row.index]!.name }}</span>
          <span class="figure text-[13px] text-soft">{{ sizeWords(shown[row.index]!.bytes) }}</span>
        </label>
      </div>
    </div>
  </ShopDialog>
</template>
