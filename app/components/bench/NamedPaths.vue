<script setup lang="ts">
/** Paths on this machine that the owner names, one a line; each can be removed, and one more can be added. */
const props = defineProps<{
  paths: readonly string[]
  label: string
  placeholder: string
  verb: string
  isBusy: boolean
}>()
const emit = defineEmits<{ keep: [paths: string[]] }>()
const typed = ref('')
// An accepted path moves to the list; a refused one stays in the field to be corrected.
watch(
  () => props.paths.length,
  () => (typed.value = ''),
)
</script>

<template>
  <ul class="mt-1">
    <li v-for="path in paths" :key="path" class="flex min-h-[34px] items-center gap-3 border-t border-line">
      <span class="figure min-w-0 flex-1 truncate text-[13.5px]" :title="path">{{ path }}</span>
      <button
        type="button"
        class="quiet-action"
        :aria-label="`Remove ${path}`"
        @click="
          emit(
            'keep',
            paths.filter((one) => one !== path),
          )
        "
      >
        Remove
      </button>
    </li>
  </ul>
  <form class="mt-2 flex gap-2" @submit.prevent="emit('keep', [...paths, typed])">
    <input v-model="typed" class="field figure" :aria-label="label" :placeholder="placeholder" />
    <button type="submit" class="quiet-action shrink-0" :disabled="isBusy || typed.trim() === ''">{{ verb }}</button>
  </form>
</template>
