<script setup lang="ts">
import { HandoutFolders, type HandoutLayout } from '~~/core/bench/shelf'

/** Copies the shelf onto the client's medium: where, and as what. */
const emit = defineEmits<{ close: [] }>()
const bench = useBenchStore()
const session = useSessionStore()
const folders = shallowRef<HandoutFolders['folders'] | null>(null)
const trouble = ref<string | null>(null)
const folder = ref('')
const layout = ref<HandoutLayout>('plain')
const bytes = computed(() => bench.bench?.shelf.bytes ?? 0)
onMounted(async () => {
  try {
    folders.value = (await api(HandoutFolders, 'GET', '/api/bench/hand-out')).folders
    folder.value = folders.value.find(({ free }) => free !== null && free >= bytes.value)?.path ?? ''
  } catch (error) {
    trouble.value = failureWords(error)
  }
})
const chosen = computed(() => folders.value?.find(({ path }) => path === folder.value) ?? null)
const isShort = computed(() => chosen.value?.free != null && chosen.value.free < bytes.value)
async function done() {
  if (await bench.handOut(folder.value, layout.value)) emit('close')
}
</script>

<template>
  <ShopDialog
    title="Copy to a medium or folder"
    verb="Copy and read back"
    :is-busy="bench.isBusy"
    :is-ready="chosen !== null && chosen.free !== null && !isShort"
    @close="emit('close')"
    @done="done"
  >
    <p v-if="trouble" role="alert" class="text-russet-ink">{{ trouble }}</p>
    <p v-if="folders?.length === 0">
      {{
        session.may('playbook')
          ? 'No folder is named for handing over yet. Name one on the page “Bench”: the place where clients’ media appear.'
          : 'The owner has not named a folder for handing over yet.'
      }}
    </p>
    <fieldset v-else-if="folders">
      <legend class="text-[15px] font-bold">Where, {{ sizeWords(bytes) }} to copy</legend>
      <label v-for="one in folders" :key="one.path" class="flex min-h-[34px] items-center gap-2.5">
        <input
          v-model="folder"
          type="radio"
          :value="one.path"
          :disabled="one.free === null"
          class="size-4 accent-[var(--russet)]"
        />
        <span class="figure min-w-0 flex-1 truncate text-[14px]" :title="one.path">{{ one.path }}</span>
        <span class="text-[14px] text-soft">
          {{ one.free === null ? 'not there now' : `${sizeWords(one.free)} free` }}
        </span>
      </label>
      <p v-if="isShort" role="alert" class="text-[14px] font-bold text-russet-ink">
        It has room for {{ sizeWords(chosen!.free!) }} and this takes {{ sizeWords(bytes) }}.
      </p>
    </fieldset>
    <fieldset>
      <legend class="text-[15px] font-bold">As</legend>
      <label class="flex min-h-[30px] items-center gap-2.5">
        <input v-model="layout" type="radio" value="plain" class="size-4 accent-[var(--russet)]" />
        plain folders, with a list of checksums
      </label>
      <label class="flex min-h-[30px] items-center gap-2.5">
        <input v-model="layout" type="radio" value="bag" class="size-4 accent-[var(--russet)]" />
        a bag (RFC 8493), for archives
      </label>
    </fieldset>
  </ShopDialog>
</template>
