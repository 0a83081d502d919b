<script setup lang="ts">
/** One figure of a list, edited in place; empty is what the playbook has, where it has something. */
const props = defineProps<{
  label: string
  unit: string
  own: number | null
  usual: number | null
  problem?: string | undefined
}>()
const emit = defineEmits<{ keep: [is: number | null]; undo: [] }>()
const draft = ref<string | null>(null)
const isNoNumber = ref(false)
const wrong = computed(() => (isNoNumber.value ? 'This is not a number.' : props.problem))
const id = useId()
const shown = computed(() => draft.value ?? (props.own === null ? '' : String(props.own)))
watch(
  () => props.own,
  () => (draft.value = null),
)
function settle() {
  const said = draft.value?.trim().replace(',', '.')
  if (said === undefined) return
  const is = said === '' ? null : Number(said)
  isNoNumber.value = is !== null && !Number.isFinite(is)
  if (isNoNumber.value) return
  if (is === props.own) draft.value = null
  else emit('keep', is)
}
function undo() {
  draft.value = null
  isNoNumber.value = false
  emit('undo')
}
</script>

<template>
  <div class="border-t border-line py-1">
    <div class="flex items-center gap-3 text-[15px]">
      <label :for="id" class="min-w-0 flex-1">{{ label }}</label>
      <input
        :id="id"
        class="figure min-h-[30px] w-[84px] border border-soft bg-sheet px-2 text-right placeholder:text-soft"
        :class="{ '!border-russet': wrong }"
        inputmode="decimal"
        autocomplete="off"
        :placeholder="usual === null ? 'none' : String(usual)"
        :aria-invalid="!!wrong || undefined"
        :aria-describedby="wrong ? `${id}-note` : undefined"
        :value="shown"
        @input="draft = ($event.target as HTMLInputElement).value"
        @keydown.enter.prevent="settle"
        @keydown.escape.prevent="undo"
        @blur="settle"
      />
      <span class="w-[44px] text-[13.5px] text-soft">{{ unit }}</span>
    </div>
    <p v-if="wrong" :id="`${id}-note`" role="alert" class="text-right text-[13.5px] font-bold text-russet-ink">
      {{ wrong }}
    </p>
  </div>
</template>
