<script setup lang="ts">
import type { z } from 'zod'
import type { WipeStandingShape } from '~~/core/afterwards/record'
import { PART_HOLDS, PART_WORDS } from '~~/core/afterwards/words'

/** How it stands with one part of a case, in a line. */
const props = defineProps<{ standing: z.infer<typeof WipeStandingShape> }>()
const clock = useClockWords()
const words = computed(() => {
  const { state, at } = props.standing
  const day = at === null ? '' : clock.dayOf(at)
  const [is, was] = props.standing.part === 'data' ? ['are', 'were'] : ['is', 'was']
  if (state === 'wiped') return `${was} wiped on ${day}`
  if (state === 'asks') return `should be wiped since ${day}`
  if (state === 'due') return `${is} wiped within the next minutes`
  if (state === 'later' && props.standing.asks.length > 0) return `should be wiped on ${day}`
  return state === 'held' ? `${is} not wiped now` : `${is} wiped automatically on ${day}`
})
</script>

<template>
  <p>
    <strong>{{ PART_WORDS[standing.part].replace('the', 'The') }}</strong>
    {{ ' ' }}{{ words }}
  </p>
  <p v-if="standing.state !== 'wiped'" class="text-[13.5px] text-soft">{{ PART_HOLDS[standing.part] }}</p>
  <WipeAsks
    v-if="standing.state === 'asks' || (standing.part === 'data' && standing.state === 'later')"
    :asks="standing.asks"
  />
</template>
