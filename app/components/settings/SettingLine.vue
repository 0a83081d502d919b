<script setup lang="ts">
/** One setting, edited in place: choosing, leaving it or Enter saves it, Escape restores it. */
const props = defineProps<{
  label: string
  value: string
  hint?: string
  rows?: number
  choices?: readonly { value: string; words: string }[]
  problem?: string | undefined
}>()
const emit = defineEmits<{ keep: [value: string] }>()
const id = useId()
const draft = ref(props.value)
watch(
  () => props.value,
  (value) => (draft.value = value),
)
const settle = () => draft.value !== props.value && emit('keep', draft.value)
const undo = () => (draft.value = props.value)
</script>

<template>
  <div class="grid gap-x-5 border-t border-line py-2 md:grid-cols-[210px_minmax(0,1fr)]">
    <label :for="id" class="pt-1.5 text-[15px] font-bold">{{ label }}</label>
    <div>
      <select
        v-if="choices"
        :id="id"
        v-model="draft"
        class="field"
        :aria-invalid="!!problem || undefined"
        :aria-describedby="`${id}-note`"
        @change="settle"
      >
        <option v-for="one in choices" :key="one.value" :value="one.value">{{ one.words }}</option>
      </select>
      <textarea
        v-else-if="rows"
        :id="id"
        v-model="draft"
        :rows="rows"
        class="field"
        :aria-invalid="!!problem || undefined"
        :aria-describedby="`${id}-note`"
        @blur="settle"
        @keydown.escape.prevent="undo"
      />
      <input
        v-else
        :id="id"
        v-model="draft"
        class="field"
        autocomplete="off"
        :aria-invalid="!!problem || undefined"
        :aria-describedby="`${id}-note`"
        @blur="settle"
        @keydown.enter.prevent="settle"
        @keydown.escape.prevent="undo"
      />
      <p :id="`${id}-note`" class="text-[13.5px]" :class="problem ? 'font-bold text-russet-ink' : 'text-soft'">
        {{ problem ?? hint }}
      </p>
    </div>
  </div>
</template>
