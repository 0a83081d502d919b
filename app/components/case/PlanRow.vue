<script setup lang="ts">
import { closingWords } from '~~/core/ranking/explain/closing-words'
import { litBy, type ReachMap } from '~~/core/pictures/reach-map'
import { priceWords, type RailPart } from '~~/core/ranking/explain/when-tried'
import { isRoute, type PlanOption } from '~~/core/ranking/situation/plan-shape'

/** One step of the plan: its reach, chance, hands-on and waiting time, and when it closes. */
const props = defineProps<{
  option: PlanOption
  number: number
  /** when it is still tried, in words; null where it always is, or where somebody's own order is shown */
  when: string | null
  rail: RailPart | null
  map: ReachMap
  /** of the picture, in pixels */
  width: number
  now: number
  /** the time (ms) that the reader points at on the map */
  cursor: number | null
  isChosen: boolean
}>()
const emit = defineEmits<{
  choose: []
  /** the row that many further down gets the focus */
  go: [by: number]
  move: [by: number]
  /** the next slice of the map, or the one before */
  slice: [by: number]
  point: [time: number | null]
}>()
const context = useAnswerContext()
const PREPARES: Record<string, string> = {
  consent: 'the client’s answer comes first',
  'safety-copy': 'keeps what is newer safe',
  repair: 'makes it run, so that it can be read',
}
const money = useMoney()
const price = computed(() => priceWords(props.option, money))
const closing = computed(() => closingWords(props.option.closes, props.now, context.value.zone))
</script>

<template>
  <button
    type="button"
    data-route
    class="plan-grid plan-row"
    :class="{ 'is-chosen': isChosen }"
    :aria-pressed="isChosen"
    :aria-expanded="isChosen"
    @click="emit('choose')"
    @keydown.down.exact.prevent="emit('go', 1)"
    @keydown.up.exact.prevent="emit('go', -1)"
    @keydown.alt.down.exact.prevent="emit('move', 1)"
    @keydown.alt.up.exact.prevent="emit('move', -1)"
    @keydown.right.exact.prevent="emit('slice', 1)"
    @keydown.left.exact.prevent="emit('slice', -1)"
    @blur="emit('point', null)"
  >
    <span class="number" :class="{ 'is-first': number === 1, 'is-railed': rail, hangs: rail?.hangs }">
      {{ number }}
    </span>
    <span class="min-w-0">
      <span class="title">{{ option.title }}</span>
      <span v-if="when" class="when" data-test="when">{{ when }}</span>
      <span class="plan-why">{{ option.says }}</span>
      <span v-if="price" class="figure block text-[13px]">{{ price }}</span>
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
            @point="(time) => emit('point', time)"
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
        {{ PREPARES[option.family] ?? 'has to come first' }}
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
    <span class="figure text-[13px]" :class="closing.urgency === 'soon' ? 'font-bold text-russet-ink' : ''">
      {{ closing.words }}
    </span>
  </button>
</template>

<style scoped>
.plan-row:hover {
  background: var(--sheet);
}
.plan-row.is-chosen {
  background: var(--sheet);
  box-shadow: inset 3px 0 0 var(--russet);
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
.number.is-railed {
  position: relative;
  align-self: start;
  margin-top: 6px;
  width: 25px;
  height: 25px;
  line-height: 22px;
  border: 1.5px solid var(--russet);
  border-radius: 50%;
  background: var(--paper);
  color: var(--ink);
}
.number.is-railed.is-first {
  background: var(--russet);
  color: var(--on-russet);
}
.number.is-railed.hangs {
  border-style: dashed;
  left: 5px;
}
.when {
  display: block;
  font-size: 13.5px;
  line-height: 1.3;
  color: var(--russet-ink);
}
.title {
  display: -webkit-box;
  overflow: hidden;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  font-weight: 700;
  line-height: 1.2;
}
</style>
