<script setup lang="ts">
import type { ActionName } from '~~/core/bench/action'
import { canRestoreOnto, needsReading, wantedTypes } from '~~/core/bench/next'
import type { LinkState } from '~~/core/bench/state'
import { isShut } from '~~/core/bench/words'
import { TYPE_WORDS } from '~~/core/cases/telling/words'

/** A link before anything of it was listed: where to look next, its places and backups, and what can be done with it. */
const props = defineProps<{ link: LinkState; next: string | null }>()
const emit = defineEmits<{ list: [keep: string]; compare: [action: ActionName, from: string] }>()
const store = useOpenCaseStore()
const bench = useBenchStore()
const session = useSessionStore()

const nextWords = computed(() => {
  const [type] = wantedTypes(store.current)
  return type ? `Look for the ${TYPE_WORDS[type]}` : 'List everything'
})
const readApps = computed(() => props.link.actions.find((one) => one.action === 'read-apps') ?? null)
const mustRead = computed(() => needsReading(props.link.keeps, store.current))
const isReading = computed(() =>
  props.link.tasks.some((task) => task.action === 'read-apps' && task.state === 'running'),
)
const canRestore = computed(() => bench.bench?.links.some(canRestoreOnto) ?? false)
const backupCount = computed(
  () => (bench.bench?.links ?? []).flatMap((one) => one.keeps).filter((keep) => keep.backup).length,
)
</script>

<template>
  <div class="overflow-y-auto pb-8">
    <div v-if="!isShut(link.state) && session.may('work')" class="mb-3 flex flex-wrap items-center gap-4">
      <p v-if="isReading" role="status">Reading. Do not touch the device.</p>
      <button
        v-else-if="mustRead && readApps"
        type="button"
        class="main-action"
        data-test="next"
        @click="emit('compare', 'read-apps', '')"
      >
        Read its app databases
      </button>
      <button
        v-else-if="next"
        type="button"
        class="main-action"
        :disabled="bench.isBusy"
        data-test="next"
        @click="emit('list', next)"
      >
        {{ nextWords }}
        <KeyCap shipped="L" />
      </button>
      <p v-else-if="link.keeps.length > 0 && backupCount === 0" class="text-soft">There is nothing on it to list.</p>
    </div>
    <BackupChooser
      v-if="backupCount > 0 && next === null"
      :can-restore="canRestore"
      class="mb-6"
      @restore="(from: string) => emit('compare', 'restore', from)"
    />
    <KeepTable
      v-if="!isShut(link.state)"
      :link="link"
      @list="(keep: string) => emit('list', keep)"
      @turn-back="(keep: string) => emit('compare', 'turn-back', `${link.id}/${keep}`)"
    />
    <BackupChooser
      v-if="backupCount > 0 && next !== null"
      :can-restore="canRestore"
      class="mt-6"
      @restore="(from: string) => emit('compare', 'restore', from)"
    />
    <ActionList
      v-if="!isShut(link.state)"
      :link="link"
      class="mt-6"
      @compare="(action: ActionName) => emit('compare', action, '')"
    />
    <p v-if="link.kind === 'batch' && session.may('work')" class="mt-8 text-[14.5px] text-soft">
      Wrong files, or no longer needed?
      <button
        type="button"
        class="ml-2 min-h-[24px] text-russet-ink underline decoration-dotted"
        :disabled="bench.isBusy"
        data-test="discard-batch"
        @click="bench.discard(link.id)"
      >
        Remove them from this case
      </button>
    </p>
    <PractisePanel v-if="link.isStandIn && link.kind !== 'medium' && session.may('work')" :link="link" class="mt-6" />
  </div>
</template>
