<script setup lang="ts">
import { readModels } from '~~/core/playbook/model-list'

/** The table of makers and models as a list: out, and in, in place of the table that there is. */
defineProps<{ count: number }>()
const playbooks = usePlaybookStore()
const faults = ref<string[]>([])
const input = useTemplateRef<HTMLInputElement>('input')

async function bring(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  faults.value = []
  const before = playbooks.playbook?.shop.models ?? []
  try {
    const { headers, lines } = readList(new Uint8Array(await file.arrayBuffer()))
    const read = readModels(headers, lines)
    if (!read.ok) faults.value = read.faults
    else {
      await playbooks.amend({ what: 'models', models: read.models })
      tellDone(`${countOf(read.models.length, 'maker')} now in the table.`, () =>
        playbooks.amend({ what: 'models', models: [...before] }),
      )
    }
  } catch (error) {
    faults.value = [error instanceof ApiFailure ? failureWords(error) : (error as Error).message]
  }
  if (input.value) input.value.value = ''
}
</script>

<template>
  <div>
    <p class="flex flex-wrap gap-4 text-[14.5px]">
      <a v-if="count > 0" href="/api/playbook/models" download class="underline decoration-dotted">Export as CSV</a>
      <label class="cursor-pointer underline decoration-dotted">
        Import a CSV in place of this table
        <input
          ref="input"
          type="file"
          accept=".csv,text/csv"
          class="sr-only"
          data-test="import-models"
          @change="bring"
        />
      </label>
    </p>
    <ul v-if="faults.length > 0" role="alert" class="mt-1 text-[14.5px] text-russet-ink" data-test="model-faults">
      <li v-for="fault in faults.slice(0, 8)" :key="fault">{{ fault }}</li>
      <li v-if="faults.length > 8">and {{ faults.length - 8 }} more. Nothing was changed.</li>
    </ul>
  </div>
</template>
