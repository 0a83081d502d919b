<script setup lang="ts">
import { SpokenSecrets } from '~~/core/bench/answers'
import type { LinkState } from '~~/core/bench/state'

/** For stand-ins only: what the owner would say, simulated faults, and resetting it. */
const props = defineProps<{ link: LinkState }>()
const store = useBenchStore()
const told = ref<string[]>([])
watch(
  () => props.link.id,
  async (id) => {
    told.value = []
    try {
      told.value = (await api(SpokenSecrets, 'GET', `/api/stand-ins/${id}/told`)).told
    } catch (error) {
      tellFailure(error)
    }
  },
  { immediate: true },
)
const FAULTS = [
  { words: 'Pull the cable', what: { isLost: true } },
  { words: 'Break the next transfer', what: { dropAfter: 1500 } },
  { words: 'Slow the line', what: { slow: 20_000 } },
  { words: 'Fill it up', what: { isFull: true } },
]
</script>

<template>
  <details class="text-[14px] text-soft" data-test="practise">
    <summary class="min-h-[24px] cursor-pointer underline decoration-dotted">Stand-in</summary>
    <ul v-if="told.length > 0" class="mt-1">
      <li v-for="one in told" :key="one">{{ one }}</li>
    </ul>
    <p class="mt-2 flex flex-wrap gap-2">
      <button
        v-for="fault in FAULTS"
        :key="fault.words"
        type="button"
        class="quiet-action"
        @click="store.practise(link.id, fault.what)"
      >
        {{ fault.words }}
      </button>
      <button
        type="button"
        class="quiet-action"
        @click="store.practise(link.id, { isLost: false, dropAfter: null, slow: null, isFull: false, corrupt: [] })"
      >
        Clear all simulated faults
      </button>
      <button type="button" class="quiet-action" data-test="reset" @click="store.reset(link.id)">
        Reset the stand-in
      </button>
    </p>
  </details>
</template>
