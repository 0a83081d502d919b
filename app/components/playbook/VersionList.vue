<script setup lang="ts">
import { VersionList, type PlaybookVersion } from '~~/core/playbook/draft'

/** The versions of the playbook: who changed it, when and why; and the way back to each. */
const drafts = useDraftStore()
const playbooks = usePlaybookStore()
const clock = useClockWords()
const { send, problem } = useSending()
const versions = ref<PlaybookVersion[]>([])
const isAll = ref(false)
const load = () =>
  send(async () => {
    versions.value = await api(VersionList, 'GET', '/api/playbook/versions')
  })
await load()
watch(() => playbooks.playbook, load)
const shown = computed(() => (isAll.value ? versions.value : versions.value.slice(0, 6)))

async function back({ id, at }: PlaybookVersion) {
  if (await send(() => drafts.backTo(id, `back to the version of ${clock.momentOf(at)}`)))
    tellDone('The playbook is as it was then.')
}
</script>

<template>
  <section aria-labelledby="versions">
    <h2 id="versions" class="text-[19px]">Versions</h2>
    <p v-if="versions.length === 0" class="text-[15px] text-soft">
      Routes and weights are as shipped. Each change will be listed here, with a way back.
    </p>
    <ol v-else class="mt-1">
      <li
        v-for="(one, at) in shown"
        :key="one.id"
        class="flex items-baseline gap-3 border-t border-line py-1 text-[14.5px]"
        data-test="version"
      >
        <span class="figure shrink-0 text-[13px] text-soft">{{ clock.momentOf(one.at) }}</span>
        <span class="min-w-0 flex-1">
          {{ one.reason }}
          <span class="text-soft">{{ one.by }}</span>
        </span>
        <span v-if="at === 0" class="text-soft">in use</span>
        <button
          v-else
          type="button"
          class="min-h-[24px] shrink-0 underline decoration-dotted"
          :aria-label="`Go back to: ${one.reason}`"
          @click="back(one)"
        >
          Go back to it
        </button>
      </li>
    </ol>
    <ShowMore v-if="versions.length > 6" v-model="isAll" :total="versions.length" />
    <p v-if="problem" role="alert" class="text-[15px] text-russet-ink">{{ problem }}</p>
  </section>
</template>
