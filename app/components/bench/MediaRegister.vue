<script setup lang="ts">
// Named apart from the component of the same name.
import { MediaRegister as Register } from '~~/core/bench/answers'
import type { UploadShape } from '~~/core/bench/medium'

/** How images and devices come to the bench: placed into a folder, brought in by this page, or named by the owner. */
const emit = defineEmits<{ changed: [] }>()
const session = useSessionStore()
const register = shallowRef<Register | null>(null)
const { send, problem, error } = useSending()

const load = async () => (register.value = await api(Register, 'GET', '/api/bench/media'))
onMounted(() => void send(load))
const changed = async () => {
  await send(load)
  emit('changed')
}
const { upload, trouble, send: bring, stop } = useUpload(() => void changed())
const picker = useTemplateRef<HTMLInputElement>('picker')
function picked(event: Event) {
  const [file] = (event.target as HTMLInputElement).files ?? []
  if (file) void bring(file)
  if (picker.value) picker.value.value = ''
}
const drop = (one: UploadShape) =>
  send(async () => await apiDo('DELETE', `/api/bench/media/uploads/${one.id}`)).then(changed)
const words = computed(() => problem.value ?? (error.value ? `${error.value.message} ${error.value.safe}` : null))
/** Uploads that wait for somebody to choose the same file again. */
const waiting = computed(() => register.value?.uploads.filter(({ id }) => id !== upload.value?.id) ?? [])
</script>

<template>
  <section aria-labelledby="media">
    <h2 id="media" class="text-[18px]">Adding media</h2>
    <p class="text-[14.5px] text-soft">
      Images and devices are opened read only. Upload a disk image here, or put it into the folder
      <span class="figure break-all text-[13px] text-ink">{{ register?.folder ?? '…' }}</span>
    </p>
    <div class="mt-2 flex flex-wrap items-center gap-3">
      <label class="quiet-action cursor-pointer" :class="{ 'opacity-60': upload !== null }">
        Upload a disk image …
        <input
          ref="picker"
          type="file"
          class="sr-only"
          :disabled="upload !== null"
          data-test="image-file"
          @change="picked"
        />
      </label>
      <template v-if="upload">
        <progress
          :value="upload.have"
          :max="upload.bytes"
          class="min-w-[120px] flex-1"
          :aria-label="`Uploading ${upload.name}`"
        />
        <span class="figure text-[13px]">{{ Math.floor((100 * upload.have) / upload.bytes) }}%</span>
        <button type="button" class="quiet-action" @click="stop">Stop</button>
      </template>
    </div>
    <p v-if="trouble" role="alert" class="mt-1 text-[14px] text-russet-ink">{{ trouble }}</p>
    <ul v-if="waiting.length > 0" class="mt-1">
      <li
        v-for="one in waiting"
        :key="one.id"
        class="flex min-h-[34px] items-center gap-3 border-t border-line text-[14px]"
      >
        <span class="min-w-0 flex-1 truncate" :title="one.name">
          {{ one.name }}: {{ sizeWords(one.have) }} of {{ sizeWords(one.bytes) }} uploaded. Choose the same file to
          resume.
        </span>
        <button type="button" class="quiet-action" :aria-label="`Discard ${one.name}`" @click="drop(one)">
          Discard
        </button>
      </li>
    </ul>
    <AllowedPaths v-if="session.may('playbook')" class="mt-4" @changed="changed" />
    <p v-if="words" role="alert" class="mt-1 text-[14px] text-russet-ink">{{ words }}</p>
  </section>
</template>
