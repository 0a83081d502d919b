<script setup lang="ts">
/** Paths that the owner names, read and kept by whoever shows them; what was refused stays, with the reason. */
const props = defineProps<{
  load: () => Promise<string[]>
  keep: (paths: string[]) => Promise<string[]>
  label: string
  placeholder: string
  verb: string
}>()
const emit = defineEmits<{ changed: [] }>()
const paths = ref<string[]>([])
const { isBusy, send, problem, error } = useSending()
onMounted(() => send(async () => (paths.value = await props.load())))
async function change(next: string[]) {
  if (await send(async () => (paths.value = await props.keep(next)))) emit('changed')
}
const words = computed(() => problem.value ?? (error.value ? `${error.value.message} ${error.value.safe}` : null))
</script>

<template>
  <NamedPaths :paths="paths" :is-busy="isBusy" :label="label" :placeholder="placeholder" :verb="verb" @keep="change" />
  <p v-if="words" role="alert" class="mt-1 text-[14px] text-russet-ink">{{ words }}</p>
</template>
