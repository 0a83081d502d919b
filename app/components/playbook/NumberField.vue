<script setup lang="ts">
/** A number edited in place: Enter or leaving saves it, Escape restores it. */
const props = defineProps<{ label: string; value: number; isWrong: boolean; describedBy?: string | undefined }>()
const emit = defineEmits<{ keep: [number]; undo: [] }>()
const draft = ref<string | null>(null)
const shown = computed(() => draft.value ?? String(props.value))

function settle() {
  if (draft.value === null) return
  const said = draft.value.trim().replace(',', '.')
  emit('keep', said === '' ? Number.NaN : Number(said))
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
