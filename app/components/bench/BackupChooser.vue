<script setup lang="ts">
import { scaleTime } from 'd3-scale'
import { known } from '~~/core/cases/shape/fact'
import { spanOf } from '~~/core/cases/shape/moment'
import type { BackupVerdict } from '~~/core/bench/choosing'
import type { BackupFacts } from '~~/core/bench/keep'
import { typesWords } from '~~/core/bench/words'
import type { DataType } from '~~/core/cases/shape/data-types'

/** Every backup on the bench against the loss and the dates of what is wanted; the newest useful one is selected. */
const emit = defineEmits<{ restore: [from: string] }>()
const props = defineProps<{ canRestore: boolean }>()
const bench = useBenchStore()
const store = useOpenCaseStore()
const session = useSessionStore()
const now = useServerNow()
const clock = useClockWords()

const VERDICTS: Record<BackupVerdict, string> = {
  best: 'best choice',
  useful: 'also usable',
  unclear: 'may hold them',
  'too-late': 'taken too late',
  'too-early': 'taken too early',
  'kind-missing': 'does not contain this type',
  'other-device': 'of another device',
}

interface Line {
  id: string
  link: string
  keep: string
  facts: BackupFacts
  verdict: BackupVerdict
  why: string
  taken: number
}
const lines = computed<Line[]>(() =>
  (bench.bench?.links ?? [])
    .flatMap((link) =>
      link.keeps.flatMap((keep) => (keep.backup ? [{ link: link.id, keep: keep.id, facts: keep.backup }] : [])),
    )
    .map(({ link, keep, facts }) => {
      const id = `${link}/${keep}`
      const judged = bench.bench?.judged.find((one) => one.id === id)
      return {
        id,
        link,
        keep,
        facts,
        verdict: judged?.verdict ?? 'unclear',
        why: judged?.why ?? '',
        taken: Date.parse(facts.taken),
      }
    })
    .toSorted((one, other) => other.taken - one.taken),
)
const spans = computed(() => ({
  made: store.current.wanted.flatMap((set) => (known(set.made) ? [spanOf(set.made)] : [])),
  loss: known(store.current.loss.when) ? spanOf(store.current.loss.when) : null,
}))
const WIDTH = 250
const axis = computed(() => {
  const first = Math.min(
    ...lines.value.map((line) => line.taken),
    ...spans.value.made.map((span) => span.from),
    now.value,
  )
  return scaleTime([first - (now.value - first) * 0.06, now.value], [0, WIDTH])
})
const fetchOf = (line: Line) =>
  bench.bench?.fetches.find((one) => one.link === line.link && one.keep === line.keep) ?? null
const secondsOf = (line: Line) => {
  const link = bench.bench?.links.find((one) => one.id === line.link)
  return link ? line.facts.bytes / link.bytesPerSecond : 0
}
const lineWords = (line: Line) => {
  const seconds = secondsOf(line)
  return seconds < 2
    ? 'a moment'
    : seconds < 100
      ? `about ${Math.ceil(seconds)} s`
      : `about ${Math.ceil(seconds / 60)} min`
}
const holdsWords = (facts: BackupFacts) => typesWords(Object.keys(facts.counts) as DataType[])
</script>

<template>
  <section v-if="lines.length > 0" aria-labelledby="backups" data-test="backups">
    <h2 id="backups" class="text-[18px]">Backups and the loss</h2>
    <p class="text-[13.5px] text-soft">
      Light: when the wanted items were created. Hatched: when they were lost. Tick: when the backup was taken.
    </p>
    <ul class="mt-1">
      <li
        v-for="line in lines"
        :key="line.id"
        class="line"
        :class="{ best: line.verdict === 'best' }"
        data-test="backup"
      >
        <svg :width="WIDTH" height="34" aria-hidden="true" class="axis">
          <defs>
            <pattern id="lost" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
              <rect width="2" height="6" fill="#ffcf8f" />
            </pattern>
          </defs>
          <rect :width="WIDTH" height="34" fill="#2b211d" />
          <rect
            v-for="span in spans.made"
            :key="span.from"
            :x="axis(span.from)"
            y="8"
            :width="Math.max(3, axis(span.to) - axis(span.from))"
            height="18"
            fill="#f2ae3d"
          />
          <rect
            v-if="spans.loss"
            :x="axis(spans.loss.from)"
            y="0"
            :width="Math.max(4, axis(spans.loss.to) - axis(spans.loss.from))"
            height="34"
            fill="url(#lost)"
          />
          <path :d="`M${axis(line.taken)} 2 V32`" stroke="#fff8ee" stroke-width="2" />
          <circle :cx="axis(line.taken)" cy="17" r="5" fill="#2b211d" stroke="#fff8ee" stroke-width="2" />
        </svg>
        <div class="min-w-0 flex-1">
          <p>
            <strong class="figure text-[14px]">{{ clock.momentOf(line.facts.taken) }}</strong>
            <span class="verdict" :class="line.verdict">{{ VERDICTS[line.verdict] }}</span>
          </p>
          <p class="text-[13.5px]">{{ line.why }}</p>
          <p class="text-[13px] text-soft">
            {{ line.facts.device }} · {{ holdsWords(line.facts) }} · {{ sizeWords(line.facts.bytes) }}
            <template v-if="line.facts.isEncrypted">· encrypted</template>
            <template v-if="line.facts.keepsBins">· with its bins</template>
          </p>
          <p v-if="fetchOf(line)?.state === 'stopped'" class="text-[13.5px] text-russet-ink">
            {{ fetchOf(line)!.says }}
          </p>
        </div>
        <div v-if="session.may('work')" class="flex flex-col items-end gap-1.5">
          <span v-if="fetchOf(line)?.state === 'running'" role="status" class="figure text-[13px]">
            {{ sizeWords(fetchOf(line)!.done) }} of {{ sizeWords(fetchOf(line)!.total) }}
          </span>
          <span v-else-if="fetchOf(line)?.state === 'done'" class="text-[13.5px] text-held">✓ on the bench</span>
          <button
            v-else-if="line.facts.isSelective"
            type="button"
            :class="line.verdict === 'best' ? 'main-action' : 'quiet-action'"
            :disabled="bench.isBusy"
            :title="`Takes ${lineWords(line)}; nothing on the source changes`"
            @click="bench.fetch(line.link, line.keep)"
          >
            {{ fetchOf(line) ? 'Resume fetching' : 'Fetch to read' }}
          </button>
          <button v-if="props.canRestore" type="button" class="quiet-action" @click="emit('restore', line.id)">
            Restore …
          </button>
        </div>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.line {
  display: flex;
  gap: 14px;
  align-items: flex-start;
  padding: 8px 0;
  border-top: 1px solid var(--line);
}
.axis {
  flex: none;
}
.verdict {
  margin-left: 8px;
  font-size: 13.5px;
  color: var(--soft);
}
.verdict.best {
  color: var(--held);
  font-weight: 700;
}
.verdict.best::before {
  content: '✓ ';
}
.verdict.too-late::before,
.verdict.other-device::before {
  content: '✕ ';
}
@media (max-width: 760px) {
  .line {
    flex-wrap: wrap;
  }
}
</style>
