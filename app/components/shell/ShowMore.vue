<script setup lang="ts">
/** Shows the rest of a list that is cut, or cuts it again. */
defineProps<{ total: number; what?: string }>()
const isAll = defineModel<boolean>({ required: true })
</script>

<template>
  <button
    type="button"
    class="mt-1 min-h-[28px] text-[14.5px] text-russet-ink underline decoration-dotted print:hidden"
    @click="isAll = !isAll"
  >
    {{ isAll ? 'Show fewer' : `Show all ${total}${what ? ` ${what}` : ''}` }}
  </button>
</template>
