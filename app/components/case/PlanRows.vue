<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { nextSlice } from '~~/core/ranking/explain/own-order'
import { litTogether, reachMapOf } from '~~/core/pictures/reach-map'
import { railOf, whenTriedWords } from '~~/core/ranking/explain/when-tried'
import { isAllBack, isRoute, type FullPlan, type PlanOption } from '~~/core/ranking/situation/plan-shape'

/** The reach map: the steps in the order to try them, then all together, then the routes below the line and why. */
const props = defineProps<{ full: FullPlan; now: number; chosen: string | null }>()
const emit = defineEmits<{ choose: [id: string] }>()
const store = useOpenCaseStore()
const list = useTemplateRef<HTMLElement>('list')
const measure = useTemplateRef<HTMLElement>('measure')
const { width } = useElementSize(measure)
const { planned, seldom, below, rows, waiting, move } = useOwnOrder(() => props.full, list)
const map = computed(() => reachMapOf(store.current, props.full, props.now))
const together = computed(() => litTogether(map.value, props.full))
/** Chances that a route is still tried belong to the plan's own order. */
const isOwn = computed(() => props.full.override !== null || waiting.value !== null)
const rail = computed(() => (isOwn.value ? null : railOf(props.full.plan)))
const whenOf = (option: PlanOption) => (isOwn.value ? null : whenTriedWords(option, props.full.plan.order))
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
        what to try, and when still
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
        <PlanRail v-if="rail?.has(option.id)" :part="rail.get(option.id)!" :is-first="index === 0" />
        <PlanRow
          :option="option"
          :number="index + 1"
          :when="whenOf(option)"
          :rail="rail?.get(option.id) ?? null"
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
      <p v-if="seldom.length > 0" class="mt-2 px-1.5 text-[13.5px] text-soft" data-test="seldom">
        Hardly ever needed:
        <span v-for="(option, index) in seldom" :key="option.id">
          <button
            type="button"
            class="min-h-[24px] underline decoration-dotted underline-offset-2"
            @click="emit('choose', option.id)"
          >
            {{ option.title }}
          </button>
          {{ index < seldom.length - 1 ? ', ' : '.' }}
        </span>
      </p>
      <PlanEstimate :plan="full.plan" :is-own-order="full.override !== null" />
    </template>
    <p v-else class="mt-6 max-w-[32rem] text-soft">
      {{
        full.sets.length === 0
          ? 'Enter what is wanted to see the routes to it.'
          : isAllBack(full.sets)
            ? 'All that is wanted is back. Nothing is left to try.'
            : 'No route is left with what is known. Another copy or fact may open one.'
      }}
    </p>
    <ExplainPicture
      v-if="full.plan.order.length > 0"
      class="mt-2 block"
      picture="the plan"
      words="Each row is a route, each column a part of the time in which the wanted items were made: the brighter, the more of them the route probably brings; what stays dark it cannot reach. The last row is all routes together. The line on the left is as wide as the chance that the route is still tried."
    />
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
  position: relative;
  border-bottom: 1px solid var(--line);
}
@media (max-width: 760px) {
  .plan-head {
    display: none;
  }
}
</style>
