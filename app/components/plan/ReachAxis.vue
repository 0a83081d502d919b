<script setup lang="ts">
import { dayWords } from '~~/core/cases/telling/words'
import type { ReachMap } from '~~/core/pictures/reach-map'

/** The axis above the rows of a reach map: when the items were made, and what is marked on the same time. */
const props = defineProps<{ map: ReachMap; width: number }>()
const context = useAnswerContext()

/** Usual width of a letter of the labels (px). */
const LETTER = 6.1
const scale = computed(() => reachScale(props.map, props.width))
const day = (time: number) => dayWords(time, context.value.zone, props.map.now)

interface Placed {
  readonly text: string
  readonly x: number
  readonly lane: number
  readonly at: number
  readonly kind: string
}

/** Labels have two lanes; must-haves take their place first, then the loss, the copies, and now. */
const labels = computed<Placed[]>(() => {
  const { made } = props.map
  if (!scale.value || !made) return []
  const order = ['must-have', 'loss', 'now', 'in-step', 'copy']
  const wanted = [...props.map.marks]
    .sort((one, other) => order.indexOf(one.kind) - order.indexOf(other.kind))
    .map((mark) => {
      const at = (scale.value!(mark.from) + scale.value!(mark.to)) / 2
      const text = mark.kind === 'in-step' ? `synced to ${day(mark.to)}` : mark.label
      const half = (text.length * LETTER) / 2 + 3
      return { text, at, kind: mark.kind, x: Math.min(props.width - half, Math.max(half, at)), half }
    })
  const taken: { from: number; to: number; lane: number }[] = []
  return wanted.flatMap((one) => {
    const lane = [0, 1].find((candidate) =>
      taken.every(
        (other) => other.lane !== candidate || one.x + one.half + 4 < other.from || one.x - one.half - 4 > other.to,
      ),
    )
    if (lane === undefined) return []
    taken.push({ from: one.x - one.half, to: one.x + one.half, lane })
    return [{ text: one.text, x: one.x, lane, at: one.at, kind: one.kind }]
  })
})
const spans = computed(() =>
  scale.value
    ? props.map.marks.map((mark, index) => ({
        key: index,
        kind: mark.kind,
        x: Math.min(props.width - 8, scale.value!(mark.from)),
        width: Math.max(2, scale.value!(mark.to) - scale.value!(mark.from)),
      }))
    : [],
)
const ends = computed(() => {
  const { made } = props.map
  return made && scale.value ? { first: day(made.from), last: day(made.to), at: scale.value(made.to) } : null
})
</script>

<template>
  <svg v-if="width > 0 && map.made" :width="width" height="46" class="block" aria-hidden="true">
    <text
      v-for="(label, index) in labels"
      :key="index"
      :x="label.x"
      :y="label.lane === 0 ? 21 : 9"
      class="label"
      :class="label.kind"
    >
      {{ label.text }}
    </text>
    <template v-for="span in spans" :key="span.key">
      <path
        v-if="span.kind === 'copy' || span.kind === 'in-step' || span.kind === 'now'"
        :d="`M${span.x + span.width / 2 - 3.5} 25h7l-3.5 5z`"
        :class="span.kind"
        class="tip"
      />
      <rect v-else :x="span.x" y="26" :width="span.width" height="3" :class="span.kind" class="bar" />
    </template>
    <text v-if="ends" x="0" y="43" class="end">{{ ends.first }}</text>
    <text v-if="ends && ends.at > 110" :x="ends.at" y="43" class="end" text-anchor="end">{{ ends.last }}</text>
  </svg>
  <span v-else class="text-[13px] text-soft">what it likely recovers</span>
</template>

<style scoped>
.label {
  font-size: 11.5px;
  text-anchor: middle;
  fill: var(--soft);
}
.label.must-have,
.label.loss {
  fill: var(--russet-ink);
}
.bar.must-have {
  fill: var(--russet);
}
.bar.loss {
  fill: var(--russet);
  opacity: 0.45;
}
.tip {
  fill: var(--soft);
}
.tip.now {
  fill: var(--ink);
}
.label.now {
  fill: var(--ink);
}
.end {
  font-family: var(--font-mono);
  font-size: 12px;
  fill: var(--soft);
}
</style>
