<script setup lang="ts">
import { withFacts } from '~~/core/cases/facts/facts'
import { known } from '~~/core/cases/shape/fact'
import type { MediumShape } from '~~/core/bench/medium'

/**
 * What has to be known of the volumes of a medium before a scan: lost, damaged, encrypted, cut short, or not read. That a device is
 * encrypted becomes a fact of the case with one press, so that its plan no longer counts on a scan.
 */
const props = defineProps<{ medium: MediumShape; part: string | null }>()
const store = useOpenCaseStore()
const session = useSessionStore()
const hasLock = (lock: 'closed' | 'opened') => props.medium.volumes.some((one) => one.lock === lock)
const lines = computed(() => volumeSays(props.medium))

const fact = computed(() => {
  const isLocked = props.medium.volumes.some(({ verdict, lock }) => verdict === 'encrypted' || lock === 'opened')
  const device = store.current.devices.find(({ id }) => id === props.part)
  if (!isLocked || !device || known(device.storage.encryption)) return null
  const change = { fact: `devices.${device.id}.storage.encryption`, is: 'whole-device' }
  return withFacts(store.current, [change]).ok ? change : null
})
</script>

<template>
  <ul v-if="lines.length > 0" aria-label="The volumes" class="px-5 pt-1.5" data-test="volumes">
    <li
      v-for="{ key, says, isGrave } in lines"
      :key="key"
      class="border-l-4 py-0.5 pl-2.5 text-[14px]"
      :class="isGrave ? 'border-russet font-semibold text-russet-ink' : 'border-line text-soft'"
    >
      {{ says }}
    </li>
    <li v-if="fact && session.may('work')" class="pt-1.5">
      <button type="button" class="quiet-action" @click="store.set([fact])">
        Record in the case: encrypted as a whole
      </button>
    </li>
    <li v-if="session.may('work') && (hasLock('closed') || hasLock('opened'))">
      <VolumeLock :link="medium.link" :part="part" :is-closed="hasLock('closed')" :is-opened="hasLock('opened')" />
    </li>
  </ul>
</template>
