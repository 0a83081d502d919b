<script setup lang="ts">
import { NamedFolders } from '~~/core/bench/answers'
/** The folders that are searched for backups; the owner names them. */
const emit = defineEmits<{ changed: [] }>()
const folders = ref<string[]>([])
const { isBusy, send, problem, error } = useSending()

onMounted(() => send(async () => (folders.value = (await api(NamedFolders, 'GET', '/api/bench/folders')).folders)))

async function keep(next: string[]) {
  const done = await send(async () => {
    folders.value = (await api(NamedFolders, 'PUT', '/api/bench/folders', { folders: next })).folders
  })
  if (!done) return
  emit('changed')
}
const words = computed(() => problem.value ?? (error.value ? `${error.value.message} ${error.value.safe}` : null))
</script>

<template>
  <section aria-labelledby="folders">
    <h2 id="folders" class="text-[18px]">Folders with backups</h2>
    <p class="text-[14.5px] text-soft">
      Archives in these folders are opened read only. The shop’s own folder and backups fetched for cases are always
      included.
    </p>
    <NamedPaths
      :paths="folders"
      :is-busy="isBusy"
      label="path of a folder on this machine"
      placeholder="/path/of/a/folder"
      verb="Add folder"
      @keep="keep"
    />
    <p v-if="words" role="alert" class="mt-1 text-[14px] text-russet-ink">{{ words }}</p>
  </section>
</template>
