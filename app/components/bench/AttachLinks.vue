<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'
import { BenchOverview } from '~~/core/bench/bench'

/** Which of the things on the bench is which part of the case. */
const emit = defineEmits<{ close: [] }>()
const store = useBenchStore()
const clock = useClockWords()
const overview = ref<BenchOverview | null>(null)
const trouble = ref<string | null>(null)
onMounted(async () => {
  try {
    overview.value = await api(BenchOverview, 'GET', '/api/bench')
  } catch (error) {
    trouble.value = failureWords(error)
  }
})
const KINDS = {
  phone: 'Phones and tablets',
  account: 'Accounts',
  computer: 'Computers',
  medium: 'Media and disk images',
  backups: 'Backups in folders',
}
const groups = computed(() =>
  Object.entries(KINDS).map(([kind, title]) => ({
    title,
    links: (overview.value?.links ?? []).filter((one) => one.kind === kind),
  })),
)
const parts = computed(() => store.bench?.parts.filter((one) => one.kind !== 'accessory') ?? [])
const otherCase = (link: BenchOverview['links'][number]) => link.cases.find((one) => one.code !== store.code)
</script>

<template>
  <Dialog :open="true" class="relative z-40" @close="emit('close')">
    <div class="fixed inset-0 bg-dusk/60" aria-hidden="true" />
    <div class="fixed inset-0 flex items-start justify-center overflow-y-auto p-6">
      <DialogPanel class="w-full max-w-[44rem] border border-line bg-paper p-6">
        <DialogTitle class="text-[22px]">Attach to this case</DialogTitle>
        <p class="text-soft">Only what is attached here can be worked on from this case.</p>
        <p v-if="trouble" role="alert" class="mt-3 text-russet-ink">{{ trouble }}</p>
        <ul class="mt-3">
          <li v-for="part in parts" :key="part.part" class="border-t border-line py-1.5">
            <label class="grid grid-cols-[200px_minmax(0,1fr)] items-center gap-4 max-md:grid-cols-1">
              <span>{{ part.words }}</span>
              <select
                class="field"
                :value="part.link ?? ''"
                :disabled="store.isBusy"
                @change="store.attach(part.part, ($event.target as HTMLSelectElement).value || null)"
              >
                <option value="">not attached</option>
                <optgroup v-for="group in groups" :key="group.title" :label="group.title">
                  <option v-for="link in group.links" :key="link.id" :value="link.id">
                    {{ link.title }}{{ link.archive ? ` · ${archiveSays(link.archive, clock.momentOf)}` : ''
                    }}{{ otherCase(link) ? ` (attached to ${otherCase(link)!.code})` : '' }}
                  </option>
                </optgroup>
              </select>
            </label>
          </li>
        </ul>
        <p v-if="parts.length === 0" class="mt-3">The case has no device and no copy yet. Add them in the docket.</p>
        <div class="mt-4 flex justify-end">
          <button type="button" class="main-action" @click="emit('close')">Done</button>
        </div>
      </DialogPanel>
    </div>
  </Dialog>
</template>
