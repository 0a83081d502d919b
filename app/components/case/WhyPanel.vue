<script setup lang="ts">
import { askingOf } from '~~/core/cases/telling/asking'
import { factorWords } from '~~/core/ranking/figures/factor-words'
import { isShareFactor } from '~~/core/ranking/figures/factor'
import type { FullPlan, PlanOption } from '~~/core/ranking/situation/plan-shape'
import { firstRouteOf, isRoute } from '~~/core/ranking/situation/plan-shape'

/**
 * Why a route has its figures: each factor given those before it and the fact that it rests on, which can be edited in
 * place.
 */
const props = defineProps<{ option: PlanOption; full: FullPlan }>()
const store = useOpenCaseStore()
const playbooks = usePlaybookStore()

const groups = computed(() => [
  { name: 'Chance that it can be carried out', figure: props.option.chance, factors: strip(false) },
  { name: 'Share that it then reaches', figure: props.option.share, factors: strip(true) },
])

function strip(isShare: boolean) {
  let so = 1
  return props.option.factors
    .filter((factor) => isShareFactor(factor.name) === isShare)
    .map((factor) => {
      const before = so
      so *= factor.value
      const word = factor.fact && askingOf(factor.fact) ? factor.fact : null
      return { ...factor, before, after: so, word, name: factorWords(factor.name) }
    })
}
const prior = computed(() => playbooks.playbook?.kinds.find((kind) => kind.id === props.option.kind)?.prior ?? null)
const summary = computed(() =>
  [
    isRoute(props.option) ? `Together ${percent(props.option.expected)} of what is wanted.` : null,
    firmness.value,
    prior.value ? `The odds count as ${prior.value.weight} earlier runs.` : null,
  ]
    .filter(Boolean)
    .join(' '),
)
const firmness = computed(() => {
  const { sensitivity } = props.full.plan
  const isFirst = firstRouteOf(props.full.plan)?.id === props.option.id
  if (!sensitivity || !isFirst) return null
  const rival = props.full.plan.options.find((one) => one.id === sensitivity.rival)
  return sensitivity.firstStays === 1
    ? 'It stays first wherever the odds lie within their ranges.'
    : `It stays first in ${percent(sensitivity.firstStays)} of the ways the odds may lie${rival ? `; else ${rival.title}` : ''}.`
})
</script>

<template>
  <div class="why-panel" data-test="why">
    <section v-for="group in groups.filter((one) => one.factors.length > 0)" :key="group.name">
      <h3>
        {{ group.name }}:
        <span class="figure">{{ percent(group.figure[1]) }}</span>
        <span class="text-soft">&ensp;{{ percent(group.figure[0]) }} to {{ percent(group.figure[2]) }}</span>
      </h3>
      <ol>
        <li v-for="factor in group.factors" :key="factor.name" class="factor" data-test="factor">
          <span class="font-bold">{{ factor.name }}</span>
          <span class="bar" aria-hidden="true">
            <span class="was" :style="{ width: `${factor.before * 100}%` }" />
            <span class="is" :style="{ width: `${factor.after * 100}%` }" />
          </span>
          <span class="figure text-right">
            × {{ percent(factor.value) }}
            <span v-if="factor.range[1] - factor.range[0] > 0.02" class="block text-[12px] text-soft">
              {{ percent(factor.range[0]) }}–{{ percent(Math.min(1, factor.range[1])) }}
            </span>
          </span>
          <span class="min-w-0">
            {{ factor.says }}
            <span v-if="factor.word" class="fact">
              <FactWord :path="factor.word" />
            </span>
          </span>
        </li>
      </ol>
    </section>
    <p class="text-soft">
      {{ summary }}
    </p>
    <p v-if="!store.supposed">
      <button type="button" class="quiet-action" data-test="what-if" @click="store.suppose()">
        Try different facts
      </button>
    </p>
  </div>
</template>

<style scoped>
.why-panel {
  padding: 4px 6px 12px 46px;
  font-size: 13.5px;
  background: var(--sheet);
  box-shadow: inset 3px 0 0 var(--russet);
}
.why-panel h3 {
  font-size: 14px;
  margin: 8px 0 2px;
}
.factor {
  display: grid;
  grid-template-columns: 108px 90px 62px minmax(0, 1fr);
  gap: 10px;
  align-items: start;
  padding: 4px 0;
  border-top: 1px solid var(--line);
}
.bar {
  position: relative;
  height: 10px;
  margin-top: 5px;
  background: var(--paper);
}
.bar > span {
  position: absolute;
  inset: 0 auto 0 0;
}
.was {
  background: var(--line);
}
.is {
  background: var(--soft);
}
.fact {
  display: inline-block;
  margin-left: 6px;
}
@media (max-width: 760px) {
  .factor {
    grid-template-columns: minmax(0, 1fr) 60px;
  }
  .factor .bar {
    display: none;
  }
  .why-panel {
    padding-left: 10px;
  }
}
</style>
