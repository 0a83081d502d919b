<script setup lang="ts">
import { askingOf } from '~~/core/cases/telling/asking'
import { valueWords } from '~~/core/cases/telling/answering'
import { factAt } from '~~/core/cases/facts/facts'
import type { FullPlan } from '~~/core/ranking/situation/plan-shape'
import { firstRouteOf } from '~~/core/ranking/situation/plan-shape'

/** While facts are only supposed: what was changed, the plan before and after, and the way back. */
const props = defineProps<{ full: FullPlan }>()
const store = useOpenCaseStore()
const context = useAnswerContext()
const was = shallowRef<FullPlan | null>(null)
watch(
  () => store.supposed,
  (supposed) => {
    if (supposed && supposed.length === 0) was.value = props.full
    if (!supposed) was.value = null
  },
  { immediate: true },
)
const changed = computed(() =>
  (store.supposed ?? []).map(({ fact, is }) => ({
    fact,
    name: askingOf(fact)?.label ?? fact,
    was: valueWords(fact, factAt(store.asItIs, fact), context.value) ?? 'not known',
    is: valueWords(fact, is, context.value) ?? 'not known',
  })),
)
const titleOf = ({ plan }: FullPlan) => firstRouteOf(plan)?.title ?? 'nothing'
const does = computed(() => {
  if (!was.value || changed.value.length === 0) return null
  const share = `${percent(was.value.plan.expected.share[1])} → ${percent(props.full.plan.expected.share[1])} expected back`
  const [before, then] = [titleOf(was.value), titleOf(props.full)]
  return before === then ? `${share}; ${then} stays first.` : `${share}; first ${then} instead of ${before}.`
})
useSingleKeys({
  k: ['keep the facts that you tried', () => store.keepSupposed()],
  d: ['drop the facts that you tried', () => store.dropSupposed()],
})
</script>

<template>
  <div class="what-if" role="status" data-test="supposing">
    <div class="min-w-0 flex-1">
      <strong>What if: nothing is saved.</strong>
      <span v-if="changed.length === 0">
        Change any fact in the docket or under a reason to see how the plan changes.
      </span>
      <span v-for="one in changed" v-else :key="one.fact" class="change">
        {{ one.name }}: {{ one.was }} → {{ one.is }}
      </span>
      <p v-if="does" class="font-bold">{{ does }}</p>
    </div>
    <button type="button" class="quiet-action" :disabled="changed.length === 0" @click="store.keepSupposed()">
      Keep facts
      <KeyCap shipped="K" />
    </button>
    <button type="button" class="quiet-action" @click="store.dropSupposed()">
      Discard facts
      <KeyCap shipped="D" />
    </button>
  </div>
</template>

<style scoped>
.what-if {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: center;
  border: 2px dashed var(--russet);
  background: var(--sheet);
  padding: 8px 12px;
  font-size: 14.5px;
}
.change {
  display: inline-block;
  margin-left: 8px;
}
</style>
