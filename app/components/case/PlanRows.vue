<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { moved, nextSlice, routesPassed } from '~~/core/ranking/explain/own-order'
import { closingWords } from '~~/core/ranking/explain/closing-words'
import { litBy, litTogether, reachMapOf } from '~~/core/pictures/reach-map'
import type { FullPlan, PlanOption } from '~~/core/ranking/situation/plan-shape'
import { isRoute } from '~~/core/ranking/situation/plan-shape'

/** The reach map: the routes in the order to try them, then all together, then what stands below the line and why. */
const props = defineProps<{ full: FullPlan; now: number; chosen: string | null }>()
const emit = defineEmits<{ choose: [id: string] }>()
const store = useOpenCaseStore()
const session = useSessionStore()
const context = useAnswerContext()
const money = useMoney()
const order = computed(() => {
  const own = props.full.override?.order ?? []
  return [...own, ...props.full.plan.order.filter((id) => !own.includes(id))]
})
const byId = computed(() => new Map(props.full.plan.options.map((option) => [option.id, option])))
const planned = computed(() => order.value.flatMap((id) => byId.value.get(id) ?? []))
const below = computed(() => props.full.plan.options.filter((option) => !order.value.includes(option.id)))
const map = computed(() => reachMapOf(store.current, props.full, props.now))
const together = computed(() => litTogether(map.value, props.full))
const closing = (option: PlanOption) => closingWords(option.closes, props.now, context.value.zone)
const expected = computed(() => props.full.override?.share ?? props.full.plan.expected.share)
const spent = computed(() => props.full.plan.expected)
const list = useTemplateRef<HTMLElement>('list')
const measure = useTemplateRef<HTMLElement>('measure')
const { width } = useElementSize(measure)
const cursor = ref<number | null>(null)
const pointedRow = ref<string | null>(null)

function point(time: number | null, id: string | null) {
  cursor.value = time
  pointedRow.value = time === null ? null : id
}

function go(from: number, step: number) {
  const rows = list.value?.querySelectorAll<HTMLElement>('button[data-route]')
  rows?.[from + step]?.focus()
}

/** The arrows step through the slices of the row that has the focus. */
function step(by: number, id: string) {
  const { made, bands } = map.value
  const edges = bands.find((band) => band.edges)?.edges
  if (!made || !edges) return
  point(nextSlice(edges, cursor.value, by), id)
}

const moving = ref<{ id: string; order: string[] } | null>(null)
const reason = ref('')
const mayMove = computed(() => session.may('work') && !store.supposed && planned.value.filter(isRoute).length > 1)

/** Moves a route up or down among the routes; nothing is kept until a reason is given. */
function move(id: string, by: number) {
  if (!mayMove.value || by === 0) return
  const routes = planned.value.filter(isRoute).map((option) => option.id)
  const next = moved(moving.value?.order ?? routes, id, by)
  if (next) moving.value = { id, order: next }
}
useDragOrder(
  list,
  '.number',
  (item, by) => {
    const rows = shownRows.value.map((option) => ({ id: option.id, isRoute: isRoute(option) }))
    const id = item.dataset.option ?? ''
    move(id, routesPassed(rows, id, by))
  },
  () => mayMove.value,
)

async function keepOrder() {
  if (!moving.value || reason.value.trim() === '') return
  if (await store.override(moving.value.order, reason.value)) {
    moving.value = null
    reason.value = ''
  }
}
const shownRows = computed(() => {
  if (!moving.value) return planned.value
  const moved = moving.value.order.flatMap((id) => byId.value.get(id) ?? [])
  return [...planned.value.filter((option) => !isRoute(option)), ...moved]
})
const overridden = computed(() => (props.full.override ? store.current.override : null))
</script>

<template>
  <section aria-label="Plan">
    <div v-if="overridden && full.override" class="note-line" data-test="override">
      <p>
        <strong>{{ overridden.by }}’s order:</strong>
        {{ overridden.reason }}
        <span class="text-soft">It is worth {{ money(full.override.price) }} less than the best order.</span>
      </p>
      <button v-if="session.may('work')" type="button" class="quiet-action" @click="store.override(null, '')">
        Restore best order
      </button>
    </div>
    <form v-if="moving" class="note-line" data-test="moving" @submit.prevent="keepOrder">
      <label class="flex min-w-0 flex-1 items-center gap-2">
        <span class="shrink-0">Reason for this order</span>
        <input v-model="reason" class="field min-w-0 flex-1" maxlength="400" data-test="move-reason" />
      </label>
      <button type="submit" class="quiet-action" :disabled="reason.trim() === ''">Save order</button>
      <button type="button" class="quiet-action" @click="moving = null">Cancel</button>
    </form>
    <div class="plan-head" aria-hidden="true">
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
      <li v-for="(option, index) in shownRows" :key="option.id" data-test="route" :data-option="option.id">
        <button
          type="button"
          data-route
          class="plan-row"
          :class="{ 'is-chosen': option.id === chosen }"
          :aria-pressed="option.id === chosen"
          :aria-expanded="option.id === chosen"
          @click="emit('choose', option.id)"
          @keydown.down.exact.prevent="go(index, 1)"
          @keydown.up.exact.prevent="go(index, -1)"
          @keydown.alt.down.exact.prevent="move(option.id, 1)"
          @keydown.alt.up.exact.prevent="move(option.id, -1)"
          @keydown.right.exact.prevent="step(1, option.id)"
          @keydown.left.exact.prevent="step(-1, option.id)"
          @blur="point(null, null)"
        >
          <span class="number" :class="{ 'is-first': index === 0 }">{{ index + 1 }}</span>
          <span class="min-w-0">
            <span class="title">{{ option.title }}</span>
            <span class="why">{{ option.says }}</span>
          </span>
          <span class="flex items-center gap-2">
            <template v-if="isRoute(option)">
              <span class="min-w-0 flex-1">
                <ReachCells
                  :map="map"
                  :lit="litBy(map, option)"
                  :width="width"
                  :height="34"
                  :cursor="cursor"
                  @point="(time) => point(time, option.id)"
                />
              </span>
              <span
                class="figure w-[40px] shrink-0 text-right text-[13px]"
                :title="`reaches ${percent(option.share[1])} if it works`"
              >
                <span class="sr-only">reaches</span>
                {{ percent(option.share[1]) }}
              </span>
            </template>
            <span v-else class="text-[14px] text-soft">
              {{ option.family === 'consent' ? 'the client’s answer comes first' : 'keeps what is newer safe' }}
            </span>
          </span>
          <span class="figure">
            <span class="block font-bold">{{ percent(option.chance[1]) }}</span>
            <ChanceRange :chance="option.chance" />
          </span>
          <span class="figure text-[13px]">
            {{ minutesWords(option.minutes.handsOn) }}
            <span v-if="option.minutes.waiting > 0" class="block text-soft">
              + {{ minutesWords(option.minutes.waiting) }}
            </span>
          </span>
          <span
            class="figure text-[13px]"
            :class="closing(option).urgency === 'soon' ? 'font-bold text-russet-ink' : ''"
          >
            {{ closing(option).words }}
          </span>
        </button>
        <WhyPanel v-if="option.id === chosen" :option="option" :full="full" />
      </li>
    </ol>
    <div v-if="planned.length > 0" class="plan-row is-union" data-test="union">
      <span />
      <span class="min-w-0">
        <span class="block font-bold leading-tight">All together</span>
        <span class="why">
          Between {{ percent(expected[0]) }} and {{ percent(expected[2]) }} in total, with what is back already.
        </span>
      </span>
      <span class="flex items-center gap-2">
        <span class="min-w-0 flex-1">
          <ReachCells
            :map="map"
            :lit="together"
            :width="width"
            :height="34"
            :cursor="cursor"
            @point="(time) => point(time, null)"
          />
        </span>
        <span class="w-[40px] shrink-0" />
      </span>
      <span class="figure font-bold">{{ percent(expected[1]) }}</span>
      <span class="figure text-[13px]">
        {{ minutesWords(spent.handsOn) }}
        <span v-if="spent.waiting >= 1" class="block text-soft">+ {{ minutesWords(spent.waiting) }}</span>
      </span>
      <span />
    </div>
    <ReachReadout
      v-if="planned.length > 0"
      :map="map"
      :rows="planned.filter(isRoute)"
      :together="together"
      :cursor="cursor"
      :row="pointedRow"
      is-working
    />
    <PlanEstimate v-if="planned.length > 0" :plan="full.plan" :is-own-order="full.override !== null" />
    <p v-if="planned.length === 0" class="mt-6 max-w-[32rem] text-soft">
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
.plan-head,
.plan-row {
  display: grid;
  grid-template-columns: 26px minmax(140px, 1fr) minmax(170px, 1.25fr) 58px 68px 72px;
  gap: 8px;
  align-items: center;
  width: 100%;
  text-align: left;
}
.plan-head {
  font-size: 13px;
  color: var(--soft);
  padding: 4px 6px;
  border-bottom: 1px solid var(--line);
}
.plan-list > li {
  border-bottom: 1px solid var(--line);
}
.plan-row {
  min-height: 54px;
  padding: 4px 6px;
  font-size: 14.5px;
}
button.plan-row:hover {
  background: var(--sheet);
}
button.plan-row.is-chosen {
  background: var(--sheet);
  box-shadow: inset 3px 0 0 var(--russet);
}
.plan-row.is-union {
  border-top: 2px solid var(--ink);
}
.number {
  cursor: grab;
  font-family: var(--font-head);
  font-weight: 700;
  font-size: 16px;
  text-align: center;
  color: var(--soft);
}
.number.is-first {
  width: 25px;
  height: 25px;
  line-height: 25px;
  border-radius: 50%;
  background: var(--russet);
  color: var(--on-russet);
}
.title {
  display: -webkit-box;
  overflow: hidden;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  font-weight: 700;
  line-height: 1.2;
}
.why {
  display: block;
  font-size: 13px;
  line-height: 1.3;
  color: var(--soft);
}
@media (max-width: 760px) {
  .plan-head {
    display: none;
  }
}
@media (max-width: 1100px) {
  .plan-head,
  .plan-row {
    grid-template-columns: 24px minmax(120px, 1fr) minmax(150px, 1.35fr) 54px 64px 64px;
    gap: 6px;
  }
}
/* On a phone the reach stands below its route, and the hands-on time with it. */
@media (max-width: 760px) {
  .plan-row {
    grid-template-columns: 28px minmax(0, 1fr) 56px 84px;
  }
  .plan-row > :nth-child(3) {
    grid-area: 2 / 2 / 3 / 4;
  }
  .plan-row > :nth-child(5) {
    grid-area: 2 / 4;
  }
  .below {
    grid-template-columns: minmax(0, 1fr);
    gap: 0;
  }
}
.note-line {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
  justify-content: space-between;
  border-left: 3px solid var(--russet);
  background: var(--sheet);
  padding: 6px 10px;
  margin-bottom: 8px;
  font-size: 14px;
}
</style>
