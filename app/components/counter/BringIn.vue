<script setup lang="ts">
import FileInput from 'lucide-vue-next/dist/esm/icons/file-input.js'
import { CaseAnswer } from '~~/core/cases/facts/writing'
import type { Fault } from '~~/core/cases/shape/faults'

/** Imports a case file or the bundle of a case; every fault in it is listed, and nothing is lost. */
const MAX_FILE_BYTES = 2_000_000
const MAX_BUNDLE_BYTES = 500_000_000
const MAX_FAULTS = 8
const input = useTemplateRef<HTMLInputElement>('input')
const isBusy = ref(false)
const faults = ref<{ message: string; fields: readonly Fault[] } | null>(null)

async function chosen() {
  const file = input.value?.files?.[0]
  if (!file) return
  faults.value = null
  isBusy.value = true
  try {
    const isBundle = /\.zip$/i.test(file.name)
    if (file.size > (isBundle ? MAX_BUNDLE_BYTES : MAX_FILE_BYTES)) {
      faults.value = { message: `${file.name} is too large for a case file. Nothing was changed.`, fields: [] }
      return
    }
    const answer = isBundle
      ? await api(CaseAnswer, 'POST', '/api/cases/import/bundle', file)
      : await api(CaseAnswer, 'POST', '/api/cases/import', { text: await file.text() })
    tellDone(`${file.name} was imported as ${answer.case.code}.`)
    await navigateTo(`/cases/${answer.case.code}`)
  } catch (error) {
    faults.value =
      error instanceof ApiFailure && error.error.fields.length > 0
        ? { message: `${file.name} was not imported. ${error.error.safe}`, fields: error.error.fields }
        : { message: failureWords(error), fields: [] }
  } finally {
    isBusy.value = false
    if (input.value) input.value.value = ''
  }
}
</script>

<template>
  <div>
    <button type="button" class="quiet-action" :disabled="isBusy" @click="input?.click()">
      <FileInput :size="16" aria-hidden="true" />
      {{ isBusy ? 'Importing …' : 'Choose a file …' }}
    </button>
    <input
      ref="input"
      type="file"
      accept=".json,.zip,application/json,application/zip"
      class="hidden"
      tabindex="-1"
      aria-hidden="true"
      data-test="case-file"
      @change="chosen"
    />
    <div v-if="faults" role="alert" class="mt-3 max-w-[820px] border-l-4 border-russet bg-sheet p-4">
      <p class="font-bold">{{ faults.message }}</p>
      <ul class="figure mt-1 text-[13px]">
        <li v-for="fault in faults.fields.slice(0, MAX_FAULTS)" :key="fault.path + fault.message">
          {{ fault.path || 'the file' }}: {{ fault.message }}
        </li>
        <li v-if="faults.fields.length > MAX_FAULTS">and {{ faults.fields.length - MAX_FAULTS }} more</li>
      </ul>
      <button type="button" class="quiet-action mt-3" @click="faults = null">Close</button>
    </div>
  </div>
</template>
