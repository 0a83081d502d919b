<script setup lang="ts">
import { NamedFolders } from '~~/core/bench/answers'
import { HandoutFolders } from '~~/core/bench/shelf'

/** The folders that are searched for backups; the owner names them. */
const emit = defineEmits<{ changed: [] }>()
const folders = ref<string[]>([])
const { isBusy, send, problem, error } = useSending()

onMounted(() => send(async () => (folders.value = (await api(NamedFolders, 'GET', '/api/bench/folders')).folders)))

const out = ref<string[]>([])
onMounted(async () => {
  try {
    out.value = (await api(HandoutFolders, 'GET', '/api/bench/hand-out')).folders.map(({ path }) => path)
  } catch (failure) {
    tellFailure(failure)
  }
})
const outward = useSending()
const keepOut = (next: string[]) =>
  outward.send(
    async () => (out.value = (await api(NamedFolders, 'PUT', '/api/bench/hand-out', { folders: next })).folders),
  )
const outWords = computed(
  () =>
    outward.problem.value ??
    (outward.error.value ? `${outward.error.value.message} ${outward.error.value.safe}` : null),
)

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
    <h2 id="folders" class="text-[18px]">Folders with backups and files</h2>
    <p class="text-[14.5px] text-soft">
      Archives in these folders are opened read only, and technicians may bring in files from them. The shop’s own
      folder and backups fetched for cases are always included.
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
    <h3 class="mt-5 text-[16px]">Folders for handing over</h3>
    <p class="text-[14.5px] text-soft">
      Where clients’ media appear on this machine. What came back is copied into a new folder there; nothing is
      overwritten.
    </p>
    <NamedPaths
      :paths="out"
      :is-busy="outward.isBusy.value"
      label="path of a folder to hand over into"
      placeholder="/path/where/media/appear"
      verb="Name folder"
      @keep="keepOut"
    />
    <p v-if="outWords" role="alert" class="mt-1 text-[14px] text-russet-ink">{{ outWords }}</p>
  </section>
</template>
