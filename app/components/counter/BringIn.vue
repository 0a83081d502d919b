<script setup lang="ts">
import FileInput from 'lucide-vue-next/dist/esm/icons/file-input.js'
import { CaseAnswer } from '~~/core/cases/facts/writing'
import type { Fault } from '~~/core/cases/shape/faults'

/** Imports a case file as a case of this shop; every fault in it is listed, and nothing is lost. */
const MAX_BYTES = 2_000_000
const MAX_FAULTS = 8
const input = useTemplateRef<HTMLInputElement>('input')
const faults = ref<{ message: string; fields: readonly Fault[] } | null>(null)

async function chosen() {
  const file = input.value?.files?.[0]
  if (!file) return
  faults.value = null
  try {
    if (file.size > MAX_BYTES) {
      faults.value = { message: `${file.name} is too large for a case file. Nothing was changed.`, fields: [] }
      return
    }
    const answer = await api(CaseAnswer, 'POST', '/api/cases/import', { text: await file.text() })
    tellDone(`${file.name} was imported as ${answer.case.code}.`)
    await navigateTo(`/cases/${answer.case.code}`)
  } catch (error) {
    faults.value =
      error instanceof ApiFailure
        ? { message: `${file.name} was not imported. ${error.error.safe}`, fields: error.error.fields }
        : { message: failureWords(error), fields: [] }
  } finally {
    if (input.value) input.value.value = ''
  }
}
</script>

<template>
  <div>
    <button type="button" class="quiet-action" @click="input?.click()">
      <FileInput :size="16" aria-hidden="true" />
      Import a case file
    </button>
    <input
      ref="input"
      type="file"
      accept=".json,application/json"
      class="hidden"
      tabindex="-1"
      aria-hidden="true"
      data-test="case-file"
      @change="chosen"
    />
    <Teleport v-if="faults" to="#counter-notes" defer>
      <div role="alert" class="mb-4 border-l-4 border-russet bg-sheet p-4">
        <p class="font-bold">{{ faults.message }}</p>
        <ul class="figure mt-1 text-[13px]">
          <li v-for="fault in faults.fields.slice(0, MAX_FAULTS)" :key="fault.path + fault.message">
            {{ fault.path || 'the file' }}: {{ fault.message }}
          </li>
          <li v-if="faults.fields.length > MAX_FAULTS">and {{ faults.fields.length - MAX_FAULTS }} more</li>
        </ul>
        <button type="button" class="quiet-action mt-3" @click="faults = null">Close</button>
      </div>
    </Teleport>
  </div>
</template>
