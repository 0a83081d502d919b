<script setup lang="ts">
import { DEVICE_KIND_WORDS, PLATFORM_WORDS } from '~~/core/cases/telling/words'
import type { KnownModel } from '~~/core/playbook/models'
import { DISCARD_WORDS, ENCRYPTION_WORDS, STORAGE_WORDS } from '~~/core/playbook/model-words'

/** One entry of the table of makers: added, edited or removed. */
const props = defineProps<{ model: KnownModel | null }>()
const emit = defineEmits<{ done: [] }>()
const playbooks = usePlaybookStore()
const { isBusy, send, problem, problemOf } = useSending()
const form = reactive({
  make: props.model?.make ?? '',
  kind: props.model?.kind ?? '',
  platform: props.model?.platform ?? '',
  storage: props.model?.storage ?? '',
  encryption: props.model?.encryption ?? '',
  discard: props.model?.discard ?? '',
})
const CHOICES = [
  { field: 'kind', label: 'Kind of device', words: DEVICE_KIND_WORDS },
  { field: 'platform', label: 'Platform family', words: PLATFORM_WORDS },
  { field: 'storage', label: 'Keeps its data on', words: STORAGE_WORDS },
  { field: 'encryption', label: 'Encryption', words: ENCRYPTION_WORDS },
  { field: 'discard', label: 'Erasing of freed blocks', words: DISCARD_WORDS },
] as const
const sheet = useTemplateRef<HTMLFormElement>('sheet')
onMounted(() => sheet.value?.querySelector('input')?.focus())

async function keep() {
  const model = Object.fromEntries(Object.entries(form).filter(([, value]) => value !== '')) as unknown as KnownModel
  const instead = props.model?.make ?? null
  if (!(await send(() => playbooks.amend({ what: 'model', instead, model: { ...model, make: form.make } })))) return
  tellDone(`${form.make} was saved.`)
  emit('done')
}

async function forget() {
  const { make } = props.model!
  if (!(await send(() => playbooks.amend({ what: 'forget-model', make })))) return
  tellDone(`${make} was removed from the table. Cases keep what they say.`)
  emit('done')
}
</script>

<template>
  <form
    ref="sheet"
    class="mt-2 grid grid-cols-2 gap-x-4 gap-y-2 border-l-2 border-line pl-4"
    novalidate
    :aria-label="model ? `Change ${model.make}` : 'A new maker or model'"
    @submit.prevent="keep"
    @keydown.escape.stop="emit('done')"
  >
    <FormField
      v-model="form.make"
      class="col-span-2"
      label="Maker, or maker and model"
      hint="As people say it"
      :problem="problemOf('model.make') ?? problemOf('make')"
    />
    <label v-for="choice in CHOICES" :key="choice.field" class="block text-[15px] font-bold">
      {{ choice.label }}
      <select v-model="form[choice.field]" class="field mt-1 font-normal">
        <option value="">not known</option>
        <option v-for="(words, value) in choice.words" :key="value" :value="value">{{ words }}</option>
      </select>
    </label>
    <p v-if="problem" role="alert" class="col-span-2 font-bold text-russet-ink">{{ problem }}</p>
    <div class="col-span-2 mt-1 flex gap-3">
      <button type="submit" class="quiet-action font-bold" :disabled="isBusy">
        {{ model ? 'Save entry' : 'Add entry' }}
      </button>
      <button type="button" class="quiet-action" @click="emit('done')">Cancel</button>
      <button v-if="model" type="button" class="quiet-action ml-auto" :disabled="isBusy" @click="forget">
        Remove entry
      </button>
    </div>
  </form>
</template>
