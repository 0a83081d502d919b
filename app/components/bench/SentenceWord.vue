<script setup lang="ts" generic="Value extends string">
import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/vue'

/** One word of the sentence over the found list: a choice among few. */
defineProps<{
  label: string
  choices: readonly { value: Value; words: string; count?: number }[]
  /** a comma follows, without a space */
  hasComma?: boolean
}>()
const value = defineModel<Value>({ required: true })
</script>

<template>
  <Listbox
    v-slot="{ open }"
    v-model="value"
    as="span"
    class="relative inline-block"
    :class="{ 'sentence-comma': hasComma }"
  >
    <ListboxButton
      class="sentence-word"
      :aria-label="`${label}: ${choices.find((one) => one.value === value)?.words ?? ''}`"
    >
      {{ choices.find((one) => one.value === value)?.words ?? choices[0]?.words }}
      <span aria-hidden="true" class="text-[11px]">{{ open ? '▴' : '▾' }}</span>
    </ListboxButton>
    <ListboxOptions
      class="absolute left-0 z-20 mt-1 max-h-[320px] w-max min-w-[180px] max-w-[420px] overflow-y-auto border border-soft bg-sheet p-1 text-[15px] font-normal focus:outline-none"
    >
      <ListboxOption
        v-for="one in choices"
        :key="one.value"
        v-slot="{ active, selected }"
        :value="one.value"
        as="template"
      >
        <li
          class="flex min-h-[30px] cursor-pointer items-center justify-between gap-4 px-2.5"
          :class="{ 'bg-chosen': active }"
        >
          <span :class="{ 'font-bold': selected }">{{ one.words }}</span>
          <span v-if="one.count !== undefined" class="figure text-[13px] text-soft">
            {{ numberWords(one.count) }}
          </span>
        </li>
      </ListboxOption>
    </ListboxOptions>
  </Listbox>
</template>
