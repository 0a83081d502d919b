<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { nextSlice } from '~~/core/ranking/explain/own-order'
import { litTogether, reachMapOf } from '~~/core/pictures/reach-map'
import { isRoute, type FullPlan } from '~~/core/ranking/situation/plan-shape'

/** The reach map: the steps in the order to try them, then all together, then the routes below the line and why. */
const props = defineProps<{ full: FullPlan; now: number; chosen: string | null }>()
const emit = defineEmits<{ choose: [id: string] }>()
const store = useOpenCaseStore()
const list = useTemplateRef<HTMLElement>('list')
const measure = useTemplateRef<HTMLElement>('measure')
const { width } = useElementSize(measure)
const { planned, below, rows, waiting, move } = useOwnOrder(() => props.full, list)
const map = computed(() => reachMapOf(store.current, props.full, props.now))
const together = computed(() => litTogether(map.value, props.full))
const cursor = ref<number | null>(null)
const pointedRow = ref<string | null>(null)

function point(time: number | null, id: string | null) {
  cursor.value = time
  pointedRow.value = time === null ? null : id
}

function focusRow(index: number) {
  list.value?.querySelectorAll<HTMLElement>('button[data-route]')[index]?.focus()
}

function pointAtSlice(by: number, id: string) {
  const { made, bands } = map.value
  const edges = bands.find((band) => band.edges)?.edges
  if (made && edges) point(nextSlice(edges, cursor.value, by), id)
}
</script>

<template>
  <section aria-label="Plan">
    <PlanOwnOrder :full="full" :waiting="waiting" @saved="waiting = null" @cancel="waiting = null" />
    <div class="plan-grid plan-head" aria-hidden="true">
      <span />
      <span>
        route, in the order to try
        <span v-if="map.bands.length > 1" class="block">
          bands: {{ map.bands.map((band) => band.label).join(', ') }}
        </span>
      </span>
      <span class="flex items-end gap-2">
        <span ref="measure" class="min-w-0 flex-1"><ReachAxis :map="map" :width="width" /></span>
        <span class="w-[40px] shrink-0 text-right">reach</span>
      </span>
      <span>chance</span>
      <span>hands</span>
      <span>closes</span>
    </div>
    <ol v-if="planned.length > 0" ref="list" class="plan-list">
      <li v-for="(option, index) in rows" :key="option.id" data-test="route" :data-option="option.id">
        <PlanRow
          :option="option"
          :number="index + 1"
          :map="map"
          :width="width"
          :now="now"
          :cursor="cursor"
          :is-chosen="option.id === chosen"
          @choose="emit('choose', option.id)"
          @go="(by) => focusRow(index + by)"
          @move="(by) => move(option.id, by)"
          @slice="(by) => pointAtSlice(by, option.id)"
          @point="(time) => point(time, option.id)"
        />
        <WhyPanel v-if="option.id === chosen" :option="option" :full="full" />
      </li>
    </ol>
    <template v-if="planned.length > 0">
      <PlanUnion
        :full="full"
        :map="map"
        :lit="together"
        :width="width"
        :cursor="cursor"
        @point="(time) => point(time, null)"
      />
      <ReachReadout
        :map="map"
        :rows="planned.filter(isRoute)"
        :together="together"
        :cursor="cursor"
        :row="pointedRow"
        is-working
      />
      <PlanEstimate :plan="full.plan" :is-own-order="full.override !== null" />
    </template>
    <p v-else class="mt-6 max-w-[32rem] text-soft">
      {{
        full.sets.length === 0
          ? 'Enter what is wanted to see the routes to it.'
          : 'No route is left with what is known. Another copy or fact may open one.'
      }}
    </p>
    <PlanBelow v-if="below.length > 0" :options="below" @choose="(id: string) => emit('choose', id)" />
  </section>
</template>

<style scoped>
.plan-head {
  font-size: 13px;
  color: var(--soft);
  padding: 4px 6px;
  border-bottom: 1px solid var(--line);
}
.plan-list > li {
  border-bottom: 1px solid var(--line);
}
@media (max-width: 760px) {
  .plan-head {
    display: none;
  }
}
</style>
