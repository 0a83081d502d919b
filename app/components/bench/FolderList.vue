<script setup lang="ts">
/** The folders in which backups are found by themselves; the owner names them. */
const emit = defineEmits<{ changed: [] }>()
const folders = ref<string[]>([])
const typed = ref('')
const { isBusy, send, problem, error } = useSending()

onMounted(() =>
  send(async () => (folders.value = (await api<{ folders: string[] }>('GET', '/api/bench/folders')).folders)),
)

async function keep(next: string[]) {
  const done = await send(async () => {
    folders.value = (await api<{ folders: string[] }>('PUT', '/api/bench/folders', { folders: next })).folders
  })
  if (!done) return
  typed.value = ''
  emit('changed')
}
const words = computed(() => problem.value ?? (error.value ? `${error.value.message} ${error.value.safe}` : null))
</script>

<template>
  <section aria-labelledby="folders">
    <h2 id="folders" class="text-[18px]">Folders with backups</h2>
    <p class="text-[14.5px] text-soft">
      Archives in them are only read. The shop’s own folder and what was fetched for cases count too.
    </p>
    <ul class="mt-1">
      <li v-for="folder in folders" :key="folder" class="flex min-h-[34px] items-center gap-3 border-t border-line">
        <span class="figure min-w-0 flex-1 truncate text-[13.5px]" :title="folder">{{ folder }}</span>
        <button
          type="button"
          class="quiet-action"
          :aria-label="`forget ${folder}`"
          @click="keep(folders.filter((one) => one !== folder))"
        >
          forget
        </button>
      </li>
    </ul>
    <form class="mt-2 flex gap-2" @submit.prevent="keep([...folders, typed])">
      <input
        v-model="typed"
        class="field figure"
        aria-label="path of a folder on this machine"
        placeholder="/path/of/a/folder"
      />
      <button type="submit" class="quiet-action shrink-0" :disabled="isBusy || typed.trim() === ''">name it</button>
    </form>
    <p v-if="words" role="alert" class="mt-1 text-[14px] text-russet-ink">{{ words }}</p>
  </section>
</template>
