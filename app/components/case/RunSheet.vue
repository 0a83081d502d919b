<script setup lang="ts">
import type { RouteKind } from '~~/core/playbook/kinds/route-kind'
import type { Run } from '~~/core/cases/shape/run'
import type { GateLine } from '~/utils/gate-lines'

/** What has to be ready, what to do, what to look for and when to stop. The lines of an open run can be ticked. */
const props = defineProps<{ sheet: RouteKind['sheet']; run?: Run | null; gates?: readonly GateLine[] }>()
const store = useOpenCaseStore()
const session = useSessionStore()

const ticked = computed(() => new Set(props.run?.checks.map(({ line }) => line)))
const canTick = computed(() => session.may('work'))

function tick(line: string) {
  if (props.run) void store.markRun(props.run.id, { line, isDone: !ticked.value.has(line) })
}
</script>

<template>
  <div class="space-y-2.5 text-[14px] leading-snug" data-test="sheet">
    <div v-if="sheet.ready.length > 0 || (gates ?? []).length > 0">
      <h3 class="section-name">Ready?</h3>
      <ul>
        <li v-for="gate in gates ?? []" :key="gate.line" :data-line="gate.line">
          <p v-if="gate.isMet" class="met">
            <span class="text-held" aria-hidden="true">✓</span>
            <span>
              {{ gate.words }}
              <span class="sr-only">(met)</span>
              <span class="block text-[13px] text-soft">{{ gate.note }}</span>
            </span>
          </p>
          <SheetLine v-else :is-done="ticked.has(gate.line)" :is-disabled="!canTick" @tick="tick(gate.line)">
            {{ gate.words }}
            <span v-if="gate.note" class="block text-[13px]" :class="gate.isShut ? 'text-russet-ink' : 'text-soft'">
              {{ gate.isShut ? '▲ ' : '' }}{{ gate.note }}
            </span>
          </SheetLine>
        </li>
        <li v-for="(words, index) in sheet.ready" :key="words" class="mt-0.5">
          <SheetLine
            v-if="run"
            :is-done="ticked.has(`ready:${index}`)"
            :is-disabled="!canTick"
            @tick="tick(`ready:${index}`)"
          >
            {{ words }}
          </SheetLine>
          <template v-else>{{ words }}</template>
        </li>
      </ul>
    </div>
    <div>
      <h3 v-if="run" class="section-name">Steps</h3>
      <ol>
        <li v-for="(words, index) in sheet.steps" :key="words">
          <SheetLine
            v-if="run"
            :is-done="ticked.has(`step:${index}`)"
            :is-disabled="!canTick"
            @tick="tick(`step:${index}`)"
          >
            <span class="sr-only">step {{ index + 1 }}:</span>
            {{ words }}
          </SheetLine>
          <p v-else class="met">
            <span class="figure text-soft">{{ index + 1 }}</span>
            {{ words }}
          </p>
        </li>
      </ol>
    </div>
    <p v-for="line in sheet.lookFor" :key="line">
      <span class="text-soft">Look for:</span>
      {{ line }}
    </p>
    <p v-for="line in sheet.stopIf" :key="line" class="text-russet-ink">
      <strong>Stop if:</strong>
      {{ line }}
    </p>
  </div>
</template>

<style scoped>
.met {
  display: grid;
  grid-template-columns: 20px 1fr;
  gap: 6px;
  margin-top: 3px;
}
</style>
