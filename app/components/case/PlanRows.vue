<script setup lang="ts">
import { closingWords } from '~~/core/ranking/closing-words'
import type { FullPlan } from '~~/core/ranking/plan'
import type { PlanOption } from '~~/core/ranking/plan-shape'
import { dayWords } from '~~/core/cases/words'

/** The routes in the order to try them, then all together, then what stands below the line and why. */
const props = defineProps<{ full: FullPlan; now: number; chosen: string | null }>()
const emit = defineEmits<{ choose: [id: string] }>()
const context = useAnswerContext()
const planned = computed(() => props.full.plan.options.filter((option) => option.standing === 'plan'))
const below = computed(() => props.full.plan.options.filter((option) => option.standing !== 'plan'))
const STANDING_WORDS: Record<string, string> = {
  closed: 'closed',
  harmful: 'would do harm',
  'not-worth-it': 'not worth it',
  covered: 'covered',
}
const lit = (option: PlanOption) =>
  props.full.sets.map((set) => (option.reach[set.wanted] ?? []).map((share) => share * option.chance[1]))
const union = computed(() => props.full.sets.map((set) => set.reached))
const closing = (option: PlanOption) => closingWords(option.closes, props.now, context.value.zone)
const edges = computed(() => props.full.sets.find((set) => set.edges.length > 0)?.edges ?? null)
const axis = computed(() =>
  edges.value
    ? [edges.value[0]!, edges.value.at(-1)!].map((edge) => dayWords(edge, context.value.zone, props.now))
    : null,
)
const expected = computed(() => props.full.plan.expected)
const list = useTemplateRef<HTMLElement>('list')

function go(from: number, step: number) {
  const rows = list.value?.querySelectorAll<HTMLElement>('button[data-route]')
  rows?.[from + step]?.focus()
}
</script>

<template>
  <section aria-label="Plan">
    <div class="plan-head" aria-hidden="true">
      <span />
      <span>route, in the order to try</span>
      <span class="flex justify-between">
        <template v-if="axis">
          <span class="figure text-[12px]">{{ axis[0] }}</span>
          <span>reach</span>
          <span class="figure text-[12px]">{{ axis[1] }}</span>
        </template>
        <span v-else>reach</span>
      </span>
      <span>chance</span>
      <span>hands</span>
      <span>closes</span>
    </div>
    <ol v-if="planned.length > 0" ref="list" class="plan-list">
      <li v-for="(option, index) in planned" :key="option.id" data-test="route" :data-option="option.id">
        <button
          type="button"
          data-route
          class="plan-row"
          :class="{ 'is-chosen': option.id === chosen }"
          :aria-pressed="option.id === chosen"
          @click="emit('choose', option.id)"
          @keydown.down.prevent="go(index, 1)"
          @keydown.up.prevent="go(index, -1)"
        >
          <span class="number" :class="{ 'is-first': index === 0 }">{{ index + 1 }}</span>
          <span class="min-w-0">
            <span class="block font-bold leading-tight">{{ option.title }}</span>
            <span class="why">{{ option.says }}</span>
          </span>
          <span class="flex items-center gap-2">
            <template v-if="option.family !== 'safety-copy'">
              <ReachStrip :bands="lit(option)" :height="34" />
              <span
                class="figure w-[38px] shrink-0 text-right text-[13px]"
                :title="`reaches ${percent(option.share[1])} if it works`"
              >
                <span class="sr-only">reaches</span>
                {{ percent(option.share[1]) }}
              </span>
            </template>
            <span v-else class="text-[14px] text-soft">comes before what erases</span>
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
      </li>
    </ol>
    <div v-if="planned.length > 0" class="plan-row is-union" data-test="union">
      <span />
      <span class="min-w-0">
        <span class="block font-bold leading-tight">All together</span>
        <span class="why">
          Between {{ percent(expected.share[0]) }} and {{ percent(expected.share[2]) }} in the end, with what is back
          already.
        </span>
      </span>
      <span class="flex items-center gap-2">
        <ReachStrip :bands="union" :height="34" />
        <span class="w-[38px] shrink-0" />
      </span>
      <span class="figure font-bold">{{ percent(expected.share[1]) }}</span>
      <span class="figure text-[13px]">
        {{ minutesWords(expected.handsOn) }}
        <span v-if="expected.waiting >= 1" class="block text-soft">+ {{ minutesWords(expected.waiting) }}</span>
      </span>
      <span />
    </div>
    <p v-else class="mt-6 max-w-[32rem] text-soft">
      {{
        full.sets.length === 0
          ? 'Say what is wanted, and the routes to it stand here.'
          : 'Nothing is left to try with what is known. One more copy, or one more fact, can open a way.'
      }}
    </p>
    <div v-if="below.length > 0" class="mt-4 border-t border-dashed border-line pt-3">
      <h2 class="text-[14px]">Below the line</h2>
      <ul class="mt-1 space-y-1 text-[14px]">
        <li v-for="option in below" :key="option.id" class="below" data-test="below">
          <span class="standing" :class="`is-${option.standing}`">{{ STANDING_WORDS[option.standing] }}</span>
          <span>
            <button
              v-if="option.standing !== 'closed'"
              type="button"
              class="min-h-[24px] text-left font-bold underline decoration-dotted underline-offset-2"
              @click="emit('choose', option.id)"
            >
              {{ option.title }}
            </button>
            <span v-else class="font-bold text-soft line-through">{{ option.title }}</span>
            <span class="text-soft">&ensp;{{ option.says }}</span>
          </span>
        </li>
      </ul>
    </div>
  </section>
</template>

<style scoped>
.plan-head,
.plan-row {
  display: grid;
  grid-template-columns: 30px minmax(150px, 1.15fr) minmax(130px, 1.25fr) 62px 66px 84px;
  gap: 10px;
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
  min-height: 58px;
  padding: 6px;
  font-size: 15px;
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
.why {
  display: block;
  font-size: 13px;
  line-height: 1.3;
  color: var(--soft);
}
.below {
  display: grid;
  grid-template-columns: 104px minmax(0, 1fr);
  gap: 8px;
  align-items: baseline;
}
.standing {
  font-size: 13px;
  color: var(--soft);
}
.standing.is-harmful {
  color: var(--russet-ink);
  font-weight: 700;
}
.standing.is-harmful::before {
  content: '▲ ';
}
@media (max-width: 760px) {
  .plan-head {
    display: none;
  }
}
@media (max-width: 1100px) {
  .plan-head,
  .plan-row {
    grid-template-columns: 28px minmax(140px, 1.3fr) minmax(90px, 1fr) 56px 64px 80px;
    gap: 8px;
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
</style>
