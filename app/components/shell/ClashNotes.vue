<script setup lang="ts">
import { askingOf } from '~~/core/cases/telling/asking'
import { valueWords } from '~~/core/cases/telling/answering'

/** Facts that two people set differently: somebody chooses which one is kept. */
const store = useOpenCaseStore()
const context = useAnswerContext()
const say = (fact: string, value: unknown) => valueWords(fact, value, context.value) ?? 'not known'
const label = (fact: string) => askingOf(fact)?.label ?? fact
</script>

<template>
  <div
    v-for="clash in store.clashes"
    :key="clash.fact"
    role="alert"
    class="flex flex-wrap items-center gap-3 border-2 border-russet bg-sheet px-4 py-2"
    data-test="clash"
  >
    <span class="flex-1">
      <strong>{{ label(clash.fact) }}</strong>
      : {{ clash.by }} said “{{ say(clash.fact, clash.theirs) }}” meanwhile, you said “{{
        say(clash.fact, clash.yours)
      }}”. Which one is right?
    </span>
    <button type="button" class="quiet-action" @click="store.settle(clash, false)">
      “{{ say(clash.fact, clash.theirs) }}”
    </button>
    <button type="button" class="quiet-action" @click="store.settle(clash, true)">
      “{{ say(clash.fact, clash.yours) }}”
    </button>
  </div>
</template>
