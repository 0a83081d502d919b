<script setup lang="ts">
/** The playbook as a file: out, and in as a draft. */
const drafts = useDraftStore()
const { send, problem } = useSending()
const input = useTemplateRef<HTMLInputElement>('input')

async function bring(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  await send(async () => {
    let read: unknown
    try {
      read = JSON.parse(await file.text())
    } catch {
      throw new ApiFailure({
        code: 'invalid',
        message: `${file.name} is not a playbook: it is not JSON.`,
        safe: 'Nothing was changed.',
        fields: [],
      })
    }
    await drafts.bring(read)
    tellDone('The routes that differ are in the draft. Try it before you take it over.')
  })
  if (input.value) input.value.value = ''
}
</script>

<template>
  <p class="flex flex-wrap items-center gap-4 text-[14.5px]">
    <a href="/api/playbook/file" download class="underline decoration-dotted">Export the playbook</a>
    <label class="cursor-pointer underline decoration-dotted">
      Import a playbook
      <input
        ref="input"
        type="file"
        accept="application/json,.json"
        class="sr-only"
        data-test="import-playbook"
        @change="bring"
      />
    </label>
    <span v-if="problem" role="alert" class="text-russet-ink">{{ problem }}</span>
  </p>
</template>
