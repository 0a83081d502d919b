<script setup lang="ts">
import { outcomeOf } from '~~/core/cases/shape/outcome'
import { undamagedOf } from '~~/core/cases/shape/run'
import { known } from '~~/core/cases/shape/fact'
import { isBeingWorked } from '~~/core/cases/shape/states'
import { TYPE_WORDS } from '~~/core/cases/telling/words'
import type { FullPlan } from '~~/core/ranking/situation/plan-shape'

/** What is back so far of each wanted set, and what the plan expects in the end. */
const props = defineProps<{ full: FullPlan | null }>()
const store = useOpenCaseStore()
/** Once nobody works on it, nothing more is expected. */
const isWorked = computed(() => isBeingWorked(store.current.state.name))
const lines = computed(() =>
  outcomeOf(store.current).map((outcome) => {
    const set = store.current.wanted.find((one) => one.id === outcome.wanted)
    const forecast = props.full?.sets.find((one) => one.wanted === outcome.wanted)
    const share = forecast?.share[1] ?? 0
    const sound = undamagedOf(outcome)
    const damaged = outcome.back - sound
    return {
      ...outcome,
      name: set && known(set.type) ? TYPE_WORDS[set.type] : 'items',
      isOne: store.current.wanted.length === 1,
      sound,
      share: outcome.of ? Math.min(1, sound / outcome.of) : sound > 0 ? 1 : 0,
      expected: share,
      rest: [
        [
          outcome.of ? `of about ${outcome.of}` : '',
          outcome.unverified > 0 ? `${outcome.unverified} not verified` : '',
          damaged > 0 ? `${damaged} damaged` : '',
        ]
          .filter(Boolean)
          .join(', '),
        isWorked.value ? `plan expects ${outcome.of ? Math.round(outcome.of * share) : percent(share)}` : '',
      ]
        .filter(Boolean)
        .join(' · '),
    }
  }),
)
</script>

<template>
  <div class="space-y-1 text-[14px]" data-test="back-so-far">
    <div v-for="line in lines" :key="line.wanted">
      <p class="text-soft">
        {{ line.isOne ? 'back so far' : line.name }}
        <strong class="figure text-ink">{{ line.sound }}</strong>
        {{ line.rest }}
      </p>
      <BackBar :back="line.share" :expected="isWorked ? line.expected : line.share" class="mt-1 w-full" />
    </div>
  </div>
</template>
