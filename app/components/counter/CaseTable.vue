<script setup lang="ts">
import { closingWords, shorterClosing } from '~~/core/ranking/explain/closing-words'
import type { CaseSummary } from '~~/core/cases/shape/summary'
import { initialsOf } from '~~/core/people/person'

/** Cases as lines: arrows go from one to the next, Enter opens. */
const props = defineProps<{ cases: readonly CaseSummary[]; now: number; zone: string }>()
const at = ref(0)
const body = useTemplateRef<HTMLElement>('body')

const lines = computed(() =>
  props.cases.map((one) => ({
    ...one,
    ...stepOf(one),
    to: `/cases/${one.code}`,
    closing: closingWords(one.closes, props.now, props.zone),
    isLive: one.stateName === 'logged' || one.stateName === 'at-bench' || one.stateName === 'waiting',
  })),
)

/** A reminder that is due comes before anything else of a case that is ready. */
function stepOf({ remindAt, nextStep }: CaseSummary) {
  const isToRemind = remindAt !== null && Date.parse(remindAt) <= props.now
  return { isToRemind, step: isToRemind ? 'tell or remind the client' : nextStep }
}

function go(step: number) {
  at.value = Math.min(lines.value.length - 1, Math.max(0, at.value + step))
  body.value?.querySelectorAll<HTMLElement>('a[data-row]')[at.value]?.focus()
}

const closesWords = (line: (typeof lines.value)[number]) =>
  !line.isLive ? '–' : line.closing.urgency === 'open' ? 'nothing closes' : shorterClosing(line.closing.words)

defineExpose({ go })
</script>

<template>
  <table class="w-full table-fixed border-collapse text-[15px]">
    <colgroup>
      <col class="w-[84px]" />
      <col class="w-[26%] desk:w-[16%]" />
      <col class="max-desk:hidden" />
      <col class="desk:w-[22%]" />
      <col class="w-[124px]" />
      <col class="w-[116px] max-xl:hidden" />
      <col class="w-[166px]" />
      <col class="w-[48px] max-desk:hidden" />
    </colgroup>
    <thead>
      <tr class="border-b border-line text-left text-[13px] text-soft">
        <th scope="col">case</th>
        <th scope="col">client</th>
        <th scope="col" class="max-desk:hidden">wanted, from</th>
        <th scope="col">next step</th>
        <th scope="col">back · expected</th>
        <th scope="col" class="max-xl:hidden">a day’s wait</th>
        <th scope="col">closes</th>
        <th scope="col" class="max-desk:hidden">with</th>
      </tr>
    </thead>
    <tbody ref="body">
      <tr
        v-for="(line, index) in lines"
        :key="line.code"
        class="case-line"
        :class="{ 'is-next': index === 0 && line.isLive && line.waitCost >= 0.5 }"
      >
        <td>
          <NuxtLink
            :to="line.to"
            data-row
            :tabindex="index === at ? 0 : -1"
            class="figure row-link text-[14px]"
            :aria-label="`${line.code}, ${line.client}, ${line.wanted}`"
            @focus="at = index"
            @keydown.down.prevent="go(1)"
            @keydown.up.prevent="go(-1)"
            @keydown.home.prevent="go(-lines.length)"
            @keydown.end.prevent="go(lines.length)"
          >
            {{ line.code }}
          </NuxtLink>
        </td>
        <td class="truncate font-bold" :title="line.client">{{ line.client }}</td>
        <td class="truncate max-desk:hidden" :title="`${line.wanted}, ${line.device}`">
          {{ line.wanted }}
          <span class="text-soft">· {{ line.device }}</span>
        </td>
        <td class="truncate" :class="{ 'font-bold': line.isToRemind }" :title="line.step">{{ line.step }}</td>
        <td>
          <span class="flex items-center gap-2">
            <BackBar :back="line.back" :expected="line.expected" class="w-[60px]" />
            <span class="figure text-[13px]">{{ percent(line.expected) }}</span>
          </span>
        </td>
        <td class="truncate max-xl:hidden" :class="line.waitItems === 'nothing yet' || !line.isLive ? 'text-soft' : ''">
          {{ line.isLive ? line.waitItems : '–' }}
        </td>
        <td
          class="figure truncate text-[13px]"
          :class="
            line.closing.urgency === 'soon' && line.isLive
              ? 'font-bold text-russet-ink'
              : line.closing.urgency === 'closed'
                ? 'text-soft line-through'
                : 'text-soft'
          "
          :title="line.closesWhat"
        >
          {{ closesWords(line) }}
        </td>
        <td class="figure text-[13px] text-soft max-desk:hidden" :title="line.with ?? 'nobody yet'">
          {{ line.with ? initialsOf({ name: line.with }) : '–' }}
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
th {
  font-weight: 400;
  padding: 6px 10px;
}
td {
  padding: 0 10px;
  height: 37px;
}
.case-line {
  position: relative;
  border-bottom: 1px solid var(--line);
}
.case-line.is-next {
  background: color-mix(in srgb, var(--chosen) 55%, transparent);
}
.case-line.is-next td:first-child {
  box-shadow: inset 4px 0 0 var(--russet);
}
.case-line:hover,
.case-line:focus-within {
  background: var(--chosen);
}
/* On a phone each case is a card: who, until when, and what comes next. */
@media (max-width: 640px) {
  table,
  tbody {
    display: block;
  }
  thead {
    display: none;
  }
  .case-line {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 2px 12px;
    padding: 9px 10px;
  }
  td {
    height: auto;
    padding: 0;
  }
  td:nth-child(1) {
    grid-area: 3 / 1;
  }
  td:nth-child(2) {
    grid-area: 1 / 1;
    font-size: 17px;
  }
  td:nth-child(4) {
    grid-area: 2 / 1 / 2 / 3;
    white-space: normal;
  }
  td:nth-child(5) {
    grid-area: 3 / 2;
  }
  td:nth-child(7) {
    grid-area: 1 / 2;
    align-self: center;
  }
  .case-line.is-next td:first-child {
    box-shadow: none;
  }
  .case-line.is-next {
    box-shadow: inset 4px 0 0 var(--russet);
  }
}
/* The whole line opens the case. */
.row-link::after {
  content: '';
  position: absolute;
  inset: 0;
}
.row-link:focus-visible {
  outline: none;
}
.row-link:focus-visible::after {
  outline: 2px solid var(--russet);
  outline-offset: -2px;
}
</style>
