<script setup lang="ts">
/** A labelled field of a small form, with its error. */
defineProps<{
  label: string
  type?: string
  inputmode?: 'numeric' | 'decimal'
  problem?: string | undefined
  autocomplete?: string
  hint?: string
}>()
const value = defineModel<string>({ required: true })
const id = useId()
</script>

<template>
  <div>
    <label :for="id" class="block text-[15px] font-bold">{{ label }}</label>
    <input
      :id="id"
      v-model="value"
      :type="type ?? 'text'"
      class="field mt-1"
      :inputmode="inputmode"
      :autocomplete="autocomplete ?? 'off'"
      :aria-invalid="!!problem || undefined"
      :aria-describedby="`${id}-note`"
    />
    <p :id="`${id}-note`" class="mt-1 text-[14px]" :class="problem ? 'font-bold text-russet-ink' : 'text-soft'">
      {{ problem ?? hint }}
    </p>
  </div>
</template>
