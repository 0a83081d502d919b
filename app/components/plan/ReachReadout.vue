<script setup lang="ts">
import { litBy, sliceAt, stretchesOf, type ReachMap } from '~~/core/pictures/reach-map'
import { MINUTE_MS } from '~~/core/cases/shape/moment'
import { dayWords, spanWords } from '~~/core/cases/telling/words'
import type { PlanOption } from '~~/core/ranking/situation/plan-shape'

/** The figures of the slice under the pointer, and the whole map as a table for screen readers and for print. */
const props = defineProps<{
  map: ReachMap
  rows: readonly PlanOption[]
  together: readonly (readonly number[])[]
  cursor: number | null
  /** id of the route that is pointed at; null for all together */
  row: string | null
  /** whether routes can be focused and moved here */
  isWorking?: boolean
}>()
const context = useAnswerContext()
const zone = computed(() => context.value.zone)

/** Edges that miss midnight by a minute or two are meant as midnight: "26 Sep". */
function sliceWords(from: number, to: number): string {
  const near = (time: number) => Math.round(time / ROUNDING_MS) * ROUNDING_MS
  return spanWords({ from: near(from), to: Math.max(near(from), near(to) - MINUTE_MS) }, zone.value, props.map.now)
}
const ROUNDING_MS = 10 * MINUTE_MS

const said = computed(() => {
  const { cursor, map } = props
  if (cursor === null) return null
  return map.bands
    .map((band, at) => {
      const slice = sliceAt(band, cursor)
      const when = band.edges ? sliceWords(band.edges[slice]!, band.edges[slice + 1]!) : 'made at any time'
      const option = props.rows.find((one) => one.id === props.row)
      const name = map.bands.length > 1 ? `${band.label}, ` : ''
      const all = percent(props.together[at]?.[slice] ?? 0)
      if (!option) return `${name}${when}: all together ${all}`
      const share = option.reach[band.wanted]?.[slice] ?? 0
      return `${name}${when}: ${option.title} reaches ${percent(share)}, likely ${percent(share * option.chance[1])}; all together ${all}`
    })
    .join('. ')
})

/** The table has one column for each stretch in which no row changes. */
const columns = computed(() => {
  const { bands } = props.map
  const all = [...props.rows.map((option) => litBy(props.map, option)), props.together]
  return bands.flatMap((band, at) => {
    const starts = new Set(all.flatMap((lit) => stretchesOf(lit[at] ?? []).map((stretch) => stretch.from)))
    const sorted = [...starts].sort((one, other) => one - other)
    return sorted.map((from, index) => {
      const to = sorted[index + 1] ?? (band.edges ? band.edges.length - 1 : 1)
      const name = band.edges ? sliceWords(band.edges[from]!, band.edges[to]!) : 'at any time'
      return {
        key: `${band.wanted}-${from}`,
        at,
        slice: from,
        name: bands.length > 1 ? `${band.label}, ${name}` : name,
      }
    })
  })
})
const marks = computed(() =>
  props.map.marks
    .map((mark) =>
      mark.from === mark.to
        ? `${mark.label}: ${dayWords(mark.from, zone.value, props.map.now)}`
        : `${mark.label}: ${spanWords(mark, zone.value, props.map.now)}`,
    )
    .join('; '),
)
</script>

<template>
  <p class="readout" aria-live="polite" data-test="readout">
    <template v-if="said">{{ said }}.</template>
    <span v-else class="text-soft print:hidden">
      Point at a day to see its figures.
      <template v-if="isWorking">
        On a route,
        <kbd class="key-cap">←</kbd>
        <kbd class="key-cap">→</kbd>
        do the same, and
        <kbd class="key-cap">Alt ↑</kbd>
        <kbd class="key-cap">Alt ↓</kbd>
        move it.
      </template>
    </span>
  </p>
  <div class="twin">
    <table data-test="reach-table">
      <caption>What each route will probably bring back, by when the items were made. {{ marks }}.</caption>
      <thead>
        <tr>
          <th scope="col">Route</th>
          <th v-for="column in columns" :key="column.key" scope="col">{{ column.name }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="option in rows" :key="option.id">
          <th scope="row">{{ option.title }}</th>
          <td v-for="column in columns" :key="column.key">
            {{ percent(litBy(map, option)[column.at]?.[column.slice] ?? 0) }}
          </td>
        </tr>
        <tr>
          <th scope="row">All together</th>
          <td v-for="column in columns" :key="column.key">{{ percent(together[column.at]?.[column.slice] ?? 0) }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.readout {
  min-height: 24px;
  padding: 4px 6px 0;
  font-size: 13.5px;
}
/* Beside the picture for readers of the screen; in its place in print, where nothing can be pointed at. */
.twin {
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
}
@media print {
  .twin {
    position: static;
    width: auto;
    height: auto;
    clip-path: none;
  }
  .twin td,
  .twin th {
    border: 1px solid #999;
    padding: 2px 6px;
    text-align: left;
    font-size: 11px;
  }
}
</style>
