<script setup lang="ts">
import { editableNumber } from '~~/core/local/numbers'

/** One figure of a list, edited in place; empty is what the playbook has, where it has something. */
const props = defineProps<{
  label: string
  unit: string
  own: number | null
  usual: number | null
  problem?: string | undefined
}>()
const emit = defineEmits<{ keep: [is: number | null]; undo: [] }>()
const isNoNumber = ref(false)
const wrong = computed(() => (isNoNumber.value ? 'This is not a number.' : props.problem))
const id = useId()
function settle(is: number | null) {
  isNoNumber.value = Number.isNaN(is)
  if (!isNoNumber.value && is !== props.own) emit('keep', is)
}
function undo() {
  isNoNumber.value = false
  emit('undo')
}
</script>

<template>
  <div class="border-t border-line py-1">
    <div class="flex items-center gap-3 text-[15px]">
      <span class="min-w-0 flex-1">{{ label }}</span>
      <NumberField
        class="placeholder:text-soft"
        :label="label"
        :value="own"
        :is-wrong="!!wrong"
        :placeholder="usual === null ? undefined : editableNumber(usual)"
        :described-by="wrong ? id : undefined"
        @keep="settle"
        @undo="undo"
      />
      <span class="w-[44px] text-[13.5px] text-soft">{{ unit }}</span>
    </div>
    <p v-if="wrong" :id="id" role="alert" class="text-right text-[13.5px] font-bold text-russet-ink">
      {{ wrong }}
    </p>
  </div>
</template>
