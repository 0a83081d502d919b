<script setup lang="ts">
import type { RouteKind } from '~~/core/playbook/kinds/route-kind'
import type { Run } from '~~/core/cases/shape/run'
import type { GateLine } from '~/utils/gate-lines'

/** What has to be ready, what to do, what to look for and when to stop. The lines of an open run can be ticked. */
const props = defineProps<{ sheet: RouteKind['sheet']; run?: Run | null; gates?: readonly GateLine[] }>()
const store = useOpenCaseStore()
const session = useSessionStore()

const ticked = computed(() => new Map((props.run?.checks ?? []).map((check) => [check.line, check.by])))
const canTick = computed(() => props.run && session.may('work'))
const linesOf = (part: 'ready' | 'step', lines: readonly string[]) =>
  lines.map((words, index) => ({ line: `${part}:${index}`, words, by: ticked.value.get(`${part}:${index}`) ?? null }))
const ready = computed(() => linesOf('ready', props.sheet.ready))
const steps = computed(() => linesOf('step', props.sheet.steps))

function tick(line: string) {
  if (props.run) void store.markRun(props.run.id, { line, isDone: !ticked.value.has(line) })
}
</script>

<template>
  <div class="space-y-2.5 text-[14px] leading-snug" data-test="sheet">
    <div v-if="ready.length > 0 || (gates ?? []).length > 0">
      <h3 class="section-name">Ready?</h3>
      <ul>
        <li v-for="gate in gates ?? []" :key="gate.line" class="line" :data-line="gate.line">
          <span v-if="gate.answered" class="text-held" aria-hidden="true">✓</span>
          <input
            v-else
            type="checkbox"
            :checked="ticked.has(gate.line)"
            :aria-label="gate.words"
            class="box"
            :disabled="!canTick"
            @change.prevent="tick(gate.line)"
          />
          <span>
            {{ gate.words }}
            <span v-if="gate.note" class="block text-[13px]" :class="gate.isShut ? 'text-russet-ink' : 'text-soft'">
              {{ gate.isShut ? '▲ ' : '' }}{{ gate.note }}
            </span>
          </span>
        </li>
        <li v-for="one in ready" :key="one.line" :class="canTick ? 'line' : 'mt-0.5'">
          <input
            v-if="canTick"
            type="checkbox"
            :checked="one.by !== null"
            :aria-label="one.words"
            class="box"
            @change.prevent="tick(one.line)"
          />
          {{ one.words }}
        </li>
      </ul>
    </div>
    <div>
      <h3 v-if="run" class="section-name">Steps</h3>
      <ol>
        <li v-for="(one, index) in steps" :key="one.line" class="line" :class="{ 'is-done': one.by !== null }">
          <input
            v-if="canTick"
            type="checkbox"
            :checked="one.by !== null"
            :aria-label="`step ${index + 1}: ${one.words}`"
            class="box"
            @change.prevent="tick(one.line)"
          />
          <span v-else class="figure text-soft">{{ index + 1 }}</span>
          {{ one.words }}
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
.line {
  display: grid;
  grid-template-columns: 20px 1fr;
  gap: 6px;
  margin-top: 3px;
}
.line.is-done {
  color: var(--soft);
}
.box {
  width: 17px;
  height: 17px;
  margin-top: 1px;
  accent-color: var(--held);
}
</style>
