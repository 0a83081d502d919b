<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { litBy, litTogether, reachMapOf } from '~~/core/pictures/reach-map'
import { isSeldom } from '~~/core/ranking/explain/when-tried'
import { closingWords } from '~~/core/ranking/explain/closing-words'
import type { FullPlan } from '~~/core/ranking/situation/plan-shape'
import { isRoute } from '~~/core/ranking/situation/plan-shape'
import { known } from '~~/core/cases/shape/fact'
import { TYPE_WORDS } from '~~/core/cases/telling/words'

/** The plan beside the log: what to tell the client at once, and the routes as known so far. */
const props = defineProps<{ full: FullPlan; now: number }>()
const store = useOpenCaseStore()
const context = useAnswerContext()

const plan = computed(() => props.full.plan)
/** What is hardly ever needed is left to the case page. */
const inPlan = computed(() => plan.value.options.filter((option) => option.standing === 'plan' && !isSeldom(option)))
const planned = computed(() => inPlan.value.slice(0, 7))
const left = computed(() => inPlan.value.length - planned.value.length)
const sayNow = computed(() =>
  plan.value.holds.filter((hold) => !store.current.holds.some((mark) => mark.hold === hold.id)).slice(0, 3),
)
const headline = computed(() => {
  const parts = props.full.sets.map((set) => {
    const what = store.current.wanted.find((one) => one.id === set.wanted)
    const name = what && known(what.type) ? TYPE_WORDS[what.type] : 'items'
    const amount =
      set.of === null
        ? `${percent(set.share[1])} of the ${name}`
        : `${Math.round(set.of * set.share[1])} of about ${set.of}${props.full.sets.length > 1 ? ` ${name}` : ''}`
    return set.of === 1 ? `the one of the ${name}, ${percent(set.share[1])} likely` : amount
  })
  return parts.join(', and ')
})
const hasRoutes = computed(() => planned.value.length > 0)
const map = computed(() => reachMapOf(store.current, props.full, props.now))
const together = computed(() => litTogether(map.value, props.full))
const measure = useTemplateRef<HTMLElement>('measure')
const { width } = useElementSize(measure)
const cursor = ref<number | null>(null)
const share = computed(() => plan.value.expected.share)
const closing = (option: (typeof planned.value)[number]) => closingWords(option.closes, props.now, context.value.zone)
</script>

<template>
  <section aria-label="The plan so far">
    <div v-if="sayNow.length > 0" class="say-now">
      <strong>Tell the client now:</strong>
      <ul>
        <li v-for="hold in sayNow" :key="hold.id">{{ hold.says }}</li>
      </ul>
    </div>
    <template v-if="hasRoutes">
      <h2 class="mt-5 text-[17px]" aria-live="polite">So far the plan would recover {{ headline }}</h2>
      <div ref="measure" class="mt-2"><ReachAxis :map="map" :width="width" /></div>
      <ol>
        <li v-for="(option, index) in planned" :key="option.id" class="mt-2.5" data-test="glance-route">
          <div class="flex items-baseline gap-3 text-[14px]">
            <span class="min-w-0 flex-1 truncate font-bold" :title="option.title">
              {{ index + 1 }}&ensp;{{ option.title }}
            </span>
            <span
              class="figure font-bold"
              :title="`chance ${percent(option.chance[1])}, between ${percent(option.chance[0])} and ${percent(option.chance[2])}`"
            >
              {{ percent(option.chance[1]) }}
            </span>
            <span
              class="figure w-[178px] shrink-0 text-right text-[13px]"
              :class="closing(option).urgency === 'soon' ? 'font-bold text-russet-ink' : 'text-soft'"
            >
              {{ closing(option).words }}
            </span>
          </div>
          <ReachCells
            v-if="isRoute(option)"
            :map="map"
            :lit="litBy(map, option)"
            :width="width"
            :height="22"
            :cursor="cursor"
            class="mt-1"
            @point="(time) => (cursor = time)"
          />
          <span class="sr-only">Reaches {{ percent(option.share[1]) }} of what is wanted, if it works.</span>
        </li>
      </ol>
      <p v-if="left > 0" class="mt-2 text-[14px] text-soft">and {{ left }} more on the case page</p>
      <div class="mt-4 border-t-2 border-ink pt-2">
        <div class="flex items-baseline gap-3 text-[14px]">
          <span class="flex-1 font-bold">All together</span>
          <span class="figure font-bold">{{ percent(share[1]) }}</span>
          <span class="figure w-[178px] shrink-0 text-right text-[13px] text-soft">
            {{ percent(share[0]) }} to {{ percent(share[2]) }}
          </span>
        </div>
        <ReachCells
          :map="map"
          :lit="together"
          :width="width"
          :height="26"
          :cursor="cursor"
          class="mt-1"
          @point="(time) => (cursor = time)"
        />
      </div>
      <ExplainPicture
        class="mt-1 block"
        picture="the strips"
        words="From left to right is the time in which the wanted items were made. Each strip is a route: the brighter, the more of them it probably brings. What you log changes it at once."
      />
      <ReachReadout :map="map" :rows="planned.filter(isRoute)" :together="together" :cursor="cursor" :row="null" />
      <BestQuestion :full="full" is-quiet class="mt-4 border-t border-line pt-3" />
    </template>
    <div v-else class="mt-5">
      <h2 class="text-[17px]">The plan appears here</h2>
      <p class="mt-1 text-soft">
        {{
          full.sets.length === 0
            ? 'Enter the device and what is lost; every fact updates it.'
            : 'No route is open with what is known so far. A copy would change that: ask about accounts, backups and people.'
        }}
      </p>
      <BestQuestion :full="full" is-quiet class="mt-4 border-t border-line pt-3" />
    </div>
  </section>
</template>

<style scoped>
.say-now {
  border: 2px solid var(--held);
  padding: 8px 12px;
  font-size: 14px;
}
.say-now strong {
  color: var(--held);
}
.say-now li {
  margin-top: 2px;
}
</style>
