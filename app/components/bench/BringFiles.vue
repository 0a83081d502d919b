<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'
import { fromEvent, type FileWithPath } from 'file-selector'
import { ArrivingBatches, BatchLink } from '~~/core/bench/batch'
import { openRunsOf, runAt } from '~~/core/cases/shape/open-runs'

/** Files that were fetched on the device or on the web: dropped here, chosen, or in a folder of the server's machine. */
const props = defineProps<{ dropped: DragEvent | null; run: string | null }>()
const emit = defineEmits<{ close: []; brought: [link: string] }>()
const store = useOpenCaseStore()
const bench = useBenchStore()
const session = useSessionStore()
const { batch, arrived, trouble, send, stop } = useBatch()
const naming = useSending()
const runs = computed(() => openRunsOf(store.current))
const run = ref(props.run ?? runAt(store.current, null)?.id ?? '')
const folder = ref('')
const waiting = shallowRef<ArrivingBatches>({ arriving: [], folders: [] })
const isOver = ref(false)

async function load() {
  try {
    waiting.value = await api(ArrivingBatches, 'GET', bench.path('/batches'))
  } catch (error) {
    trouble.value = failureWords(error)
  }
}

async function take(event: Event) {
  isOver.value = false
  if (batch.value) return
  const chosen = (await fromEvent(event)).filter((one): one is FileWithPath => one instanceof File)
  if (event.target instanceof HTMLInputElement) event.target.value = ''
  if (chosen.length === 0) return
  const link = await send(chosen, run.value || null)
  if (link) emit('brought', link)
  else await load()
}

async function name() {
  let link: string | null = null
  await naming.send(async () => {
    const body = { run: run.value || null, path: folder.value.trim() }
    link = (await api(BatchLink, 'POST', bench.path('/batches/folder'), body)).link
  })
  if (link) emit('brought', link)
}

async function discard(id: string) {
  await naming.send(() => apiDo('DELETE', bench.path(`/batches/${id}`)))
  await load()
}

onMounted(() => {
  void load()
  if (props.dropped) void take(props.dropped)
})
/** A dialog that sends is not closed by a stray key. */
const close = () => batch.value === null && emit('close')
</script>

<template>
  <Dialog :open="true" class="relative z-40" @close="close">
    <div class="fixed inset-0 bg-dusk/60" aria-hidden="true" />
    <div class="fixed inset-0 flex items-start justify-center overflow-y-auto p-6">
      <DialogPanel class="w-full max-w-[44rem] border border-line bg-paper p-6">
        <DialogTitle class="text-[22px]">Bring in files fetched by hand</DialogTitle>
        <p class="text-soft">
          What you saved from the device or the web: files, a folder of them, or an archive. It is listed, previewed and
          copied to the shelf like everything else.
        </p>
        <label v-if="runs.length > 0" class="mt-4 grid grid-cols-[110px_minmax(0,1fr)] items-center gap-3">
          <span class="font-bold">Counts for</span>
          <select v-model="run" class="field" :disabled="batch !== null" data-test="batch-run">
            <option v-for="one in runs" :key="one.id" :value="one.id">{{ one.title }}</option>
            <option value="">the case, but no route</option>
          </select>
        </label>
        <p v-else class="mt-4 text-[14.5px]">No run is open: the files count for the case but for no route.</p>
        <div
          class="mt-4 border-2 border-dashed p-6 text-center"
          :class="isOver ? 'border-russet bg-chosen' : 'border-soft bg-sheet'"
          data-test="drop-zone"
          @dragover.prevent="isOver = true"
          @dragleave="isOver = false"
          @drop.prevent.stop="take"
        >
          <template v-if="batch">
            <p class="truncate font-bold" :title="batch.title">{{ batch.title }}</p>
            <progress :value="arrived.bytes" :max="batch.bytes" class="mt-2 w-full" aria-label="Files arriving" />
            <p class="figure text-[14px]" aria-live="polite">
              {{ arrived.files }} of {{ countOf(batch.have.length, 'file') }}, {{ sizeWords(arrived.bytes) }} of
              {{ sizeWords(batch.bytes) }}
            </p>
            <button type="button" class="quiet-action mt-2" @click="stop">Stop</button>
          </template>
          <template v-else>
            <p class="text-[17px]">Drop files or a folder here</p>
            <div class="mt-3 flex flex-wrap justify-center gap-3">
              <label class="main-action cursor-pointer focus-within:outline-2 focus-within:outline-offset-2">
                Choose files …
                <input type="file" multiple class="sr-only" data-test="batch-files" @change="take" />
              </label>
              <label class="quiet-action cursor-pointer focus-within:outline-2 focus-within:outline-offset-2">
                Choose a folder …
                <input type="file" webkitdirectory class="sr-only" data-test="batch-folder" @change="take" />
              </label>
            </div>
          </template>
        </div>
        <p v-if="trouble" role="alert" class="mt-2 text-[14.5px] text-russet-ink">{{ trouble }}</p>
        <ul v-if="waiting.arriving.length > 0 && !batch" class="mt-3" aria-label="Not arrived completely">
          <li
            v-for="one in waiting.arriving"
            :key="one.id"
            class="flex min-h-[34px] items-center gap-3 border-t border-line text-[14px]"
          >
            <span class="min-w-0 flex-1 truncate" :title="one.title">
              {{ one.title }}: {{ one.whole }} of {{ one.have.length }} files are here. Choose the same again to resume.
            </span>
            <button type="button" class="quiet-action" :aria-label="`Discard ${one.title}`" @click="discard(one.id)">
              Discard
            </button>
          </li>
        </ul>
        <form class="mt-5 border-t border-line pt-4" @submit.prevent="name">
          <FormField
            v-model="folder"
            label="Or a folder of the server’s machine, read where it is"
            :problem="naming.problemOf('path')"
            :hint="
              session.may('playbook')
                ? 'An absolute path. Whatever is in it can be listed in this case.'
                : waiting.folders.length > 0
                  ? `A path within ${waiting.folders.join(', ')}.`
                  : 'The owner has not allowed any folder yet.'
            "
          />
          <p v-if="naming.problem.value" role="alert" class="text-[14px] text-russet-ink">{{ naming.problem.value }}</p>
          <div class="mt-2 flex justify-between">
            <button type="submit" class="quiet-action" :disabled="folder.trim() === '' || batch !== null">
              Use this folder
            </button>
            <button type="button" class="quiet-action" :disabled="batch !== null" @click="close">Close</button>
          </div>
        </form>
      </DialogPanel>
    </div>
  </Dialog>
</template>
