<script setup lang="ts">
import { scaleLinear } from 'd3-scale'
import { useElementSize } from '@vueuse/core'
import { closingWords, shorterClosing } from '~~/core/ranking/explain/closing-words'
import { hangTags, LINE_STOPS, tagSize, type Tag } from '~~/core/pictures/closing-line'
import type { CaseSummary } from '~~/core/cases/shape/summary'

/** Every open case as a tag on a line of time, at the moment when its next window closes. */
const props = defineProps<{ cases: readonly CaseSummary[]; now: number; zone: string }>()
const box = useTemplateRef<HTMLElement>('box')
const { width } = useElementSize(box)
const at = ref(0)

const TOP = 34
const STRING = 22
/** A case stays on the line for this long after its window has closed (ms). */
const PAST_MS = 14 * 86_400_000

/** From a week past, which has little room, over now to two months on. */
const scale = computed(() =>
  scaleLinear(
    [-PAST_MS, ...LINE_STOPS.map((stop) => stop.ms)],
    [4, ...LINE_STOPS.map((stop) => stop.at * width.value)],
  ).clamp(true),
)
const placeOf = (time: number) => scale.value(time - props.now)
const byCode = computed(() => new Map(props.cases.map((one) => [one.code, one])))
const hung = computed(() => {
  if (width.value < 300) return { tags: [] as readonly Tag[], height: 0, lines: 3 }
  const hanging = props.cases.flatMap((one) => {
    const [earliest, latest] = one.closes
    if (earliest === null) return []
    const span = [Date.parse(earliest), Date.parse(latest ?? earliest)] as const
    return span[1] < props.now - PAST_MS ? [] : [{ code: one.code, closes: span, waits: one.waitCost }]
  })
  return { ...hangTags(hanging, props.now, width.value, placeOf), lines: tagSize(hanging.length).lines }
})
const tags = computed(() =>
  hung.value.tags.map((tag) => {
    const cases = tag.codes.flatMap((code) => byCode.value.get(code) ?? [])
    const first = cases[0]!
    const closing = closingWords(first.closes, props.now, props.zone)
    const isGroup = cases.length > 1
    return {
      ...tag,
      key: tag.codes.join(),
      top: TOP + STRING + tag.y,
      name: isGroup ? `${cases.length} cases` : first.client,
      what: isGroup ? `from ${first.client} on` : first.wanted,
      words: hung.value.lines === 3 ? closing.words : shorterClosing(closing.words),
      isSoon: closing.urgency === 'soon',
      // A group leads to its cases in the table.
      link: isGroup ? `/?together=${tag.codes.join()}` : `/cases/${first.code}`,
      label: cases
        .map(
          (one) =>
            `${one.client}, ${one.wanted}, ${one.closesWhat}: ${closingWords(one.closes, props.now, props.zone).words}`,
        )
        .join('; '),
    }
  }),
)
const height = computed(() => TOP + STRING + hung.value.height + 4)

/** Through the tags in order of time. */
function go(step: number) {
  at.value = Math.min(tags.value.length - 1, Math.max(0, at.value + step))
  box.value?.querySelectorAll<HTMLElement>('a[data-tag]')[at.value]?.focus()
}
</script>

<template>
  <section v-if="cases.length > 0" aria-label="Closing times">
    <div ref="box" class="line-box" :style="{ height: tags.length > 0 ? `${height}px` : '0' }">
      <svg v-if="tags.length > 0" :width="width" :height="height" class="absolute inset-0" aria-hidden="true">
        <line :x1="0" :x2="width" :y1="TOP" :y2="TOP" class="axis" />
        <g v-for="stop in LINE_STOPS" :key="stop.words">
          <text :x="stop.at * width" y="13" class="stop">{{ stop.words }}</text>
          <line :x1="stop.at * width" :x2="stop.at * width" :y1="TOP - 8" :y2="TOP + 4" class="tick" />
        </g>
        <line :x1="placeOf(now)" :x2="placeOf(now)" :y1="TOP - 8" :y2="height" class="now" />
        <g v-for="tag in tags" :key="tag.key" :class="{ past: tag.isPast }">
          <line :x1="tag.string" :x2="tag.string" :y1="TOP" :y2="tag.top + 4" class="string" />
          <rect
            :x="tag.from - 3"
            :y="TOP - 3"
            :width="Math.max(6, tag.to - tag.from + 6)"
            height="6"
            rx="3"
            class="window"
          />
        </g>
      </svg>
      <ul>
        <li v-for="(tag, index) in tags" :key="tag.key">
          <NuxtLink
            :to="tag.link"
            data-tag
            data-test="tag"
            :tabindex="index === at ? 0 : -1"
            :aria-label="tag.label"
            class="tag"
            :class="{ 'is-soon': tag.isSoon, 'is-past': tag.isPast, 'is-small': hung.lines === 1 }"
            :style="{ left: `${tag.x}px`, top: `${tag.top}px`, width: `${tag.width}px`, height: `${tag.height}px` }"
            :title="tag.label"
            @focus="at = index"
            @keydown.right.prevent="go(1)"
            @keydown.left.prevent="go(-1)"
            @keydown.home.prevent="go(-tags.length)"
            @keydown.end.prevent="go(tags.length)"
          >
            <span class="name">{{ tag.name }}</span>
            <span v-if="hung.lines === 3" class="what">{{ tag.what }}</span>
            <span class="when">{{ tag.words }}</span>
          </NuxtLink>
        </li>
      </ul>
    </div>
  </section>
</template>

<style scoped>
.line-box {
  position: relative;
}
.axis {
  stroke: var(--line);
}
.stop {
  font-size: 12.5px;
  text-anchor: middle;
  fill: var(--soft);
}
.tick {
  stroke: var(--soft);
}
.now {
  stroke: var(--soft);
  stroke-dasharray: 2 4;
}
.string {
  stroke: var(--russet);
}
.window {
  fill: var(--russet);
}
.past .string,
.past .window {
  stroke: var(--soft);
  fill: var(--soft);
}
.past .window {
  stroke: none;
}
/* A paper tag: cut corners at the top, where the string goes through. */
.tag {
  position: absolute;
  display: flex;
  flex-direction: column;
  justify-content: center;
  padding: 3px 8px 2px;
  background: var(--sheet);
  border: 1px solid var(--line);
  border-top: 2px solid var(--soft);
  font-size: 13px;
  line-height: 1.25;
  color: var(--ink);
  text-decoration: none;
  clip-path: polygon(8px 0, calc(100% - 8px) 0, 100% 8px, 100% 100%, 0 100%, 0 8px);
}
.tag > * {
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
}
.tag .name {
  font-family: var(--font-head);
  font-weight: 700;
  font-size: 14.5px;
}
.tag .when {
  font-size: 12px;
  color: var(--soft);
}
.tag.is-soon {
  border-color: var(--russet);
}
.tag.is-soon .when {
  color: var(--russet-ink);
  font-weight: 700;
}
.tag.is-past .name {
  color: var(--soft);
  text-decoration: line-through;
}
.tag.is-small {
  flex-direction: row;
  align-items: center;
  justify-content: space-between;
  gap: 6px;
  padding: 0 7px;
}
.tag.is-small .name {
  flex: 1 1 0;
  font-size: 13px;
}
.tag.is-small .when {
  font-size: 11px;
}
.tag:hover {
  background: var(--chosen);
}
.tag:focus-visible {
  outline: none;
  background: var(--chosen);
  border-color: var(--russet);
  box-shadow: inset 0 0 0 2px var(--russet);
}
</style>
