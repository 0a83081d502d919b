<script setup lang="ts">
import { editableNumber, readNumber } from '~~/core/local/numbers'

/** A number edited in place: Enter or leaving saves it, Escape restores it. What is no number is NaN, an empty field null. */
const props = defineProps<{
  label: string
  value: number | null
  isWrong: boolean
  placeholder?: string | undefined
  describedBy?: string | undefined
}>()
const emit = defineEmits<{ keep: [number | null]; undo: [] }>()
const draft = ref<string | null>(null)
const shown = computed(() => draft.value ?? (props.value === null ? '' : editableNumber(props.value)))

function settle() {
  if (draft.value === null) return
  emit('keep', draft.value.trim() === '' ? null : readNumber(draft.value))
}

function undo() {
  draft.value = null
  emit('undo')
}

// What was typed stays until it is saved, so that a wrong number can be corrected.
watch(
  () => props.value,
  () => (draft.value = null),
)
</script>

<template>
  <input
    class="figure min-h-[30px] w-[68px] border border-line bg-sheet px-2 text-right"
    :class="{ '!border-russet': isWrong }"
    inputmode="decimal"
    autocomplete="off"
    :placeholder="placeholder"
    :aria-label="label"
    :aria-invalid="isWrong || undefined"
    :aria-describedby="describedBy"
    :value="shown"
    @input="draft = ($event.target as HTMLInputElement).value"
    @keydown.enter.prevent="settle"
    @keydown.escape.prevent="undo"
    @blur="settle"
  />
</template>
