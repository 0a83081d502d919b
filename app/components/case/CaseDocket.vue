<script setup lang="ts">
import { askingOf } from '~~/core/cases/telling/asking'
import { factAt } from '~~/core/cases/facts/facts'
import { wordsOf } from '~~/core/cases/telling/answering'
import { docketOf, type DocketPart, type DocketSection } from '~~/core/cases/telling/docket'
import type { PartList } from '~~/core/cases/telling/sentence'

/** The facts of the case as a list, edited in place with the same controls as the telling. */
const store = useOpenCaseStore()
const ofCase = computed(() => store.current)
const sections = computed(() => docketOf(ofCase.value))

const context = useAnswerContext()
const LONG = 17
const isLong = (path: string) => (wordsOf(ofCase.value, path, context.value) ?? '').length > LONG
const opened = ref<Record<string, boolean>>({})
const isSet = (path: string) => {
  const value = factAt(ofCase.value, path.split('#')[0]!)
  return value !== 'unknown' && value !== '' && value !== null && value !== undefined
}
/** Unknown facts are hidden until somebody asks for them, except the first few of each section. */
const shown = (section: string, part: DocketPart) =>
  opened.value[section]
    ? part.facts
    : part.facts.filter((path, index) => isSet(path) || (index < 2 && part.name === ''))
const foldedCount = (section: DocketSection) =>
  opened.value[section.name]
    ? 0
    : section.parts.reduce((sum, part) => sum + part.facts.length - shown(section.name, part).length, 0)

function remove({ list, id }: { list: PartList; id: string }) {
  const was = ofCase.value[list].find((one) => one.id === id)
  store.set([{ fact: `${list}.${id}`, is: null }])
  tellDone('Removed.', () => store.set([{ fact: `${list}.${id}`, is: was }]))
}
const ADDING: Record<PartList, string> = {
  copies: 'another copy?',
  wanted: 'something else?',
  devices: 'another device?',
}
</script>

<template>
  <aside class="docket" aria-label="Docket" data-words>
    <section v-for="section in sections" :key="section.name">
      <h2 class="section-name">{{ section.name }}</h2>
      <div v-for="(part, index) in section.parts" :key="part.remove?.id ?? index" class="mt-1">
        <p v-if="part.name" class="flex items-baseline justify-between font-bold">
          {{ part.name }}
          <button
            v-if="part.remove && opened[section.name]"
            type="button"
            class="min-h-[24px] px-1 text-[13px] font-normal text-soft underline decoration-dotted"
            :aria-label="`Remove ${part.name}`"
            @click="remove(part.remove)"
          >
            Remove
          </button>
        </p>
        <dl>
          <div
            v-for="path in shown(section.name, part)"
            :key="path"
            class="fact-line"
            :class="{ 'is-long': isLong(path) }"
          >
            <dt>{{ askingOf(path)?.label }}</dt>
            <dd><FactWord :path="path" /></dd>
          </div>
        </dl>
      </div>
      <div v-if="section.add && opened[section.name]" class="mt-1">
        <AddWord :list="section.add" :question="ADDING[section.add]" />
      </div>
      <button
        v-if="foldedCount(section) > 0 || section.add"
        type="button"
        class="fold"
        :aria-expanded="!!opened[section.name]"
        @click="opened[section.name] = !opened[section.name]"
      >
        {{
          opened[section.name] ? 'Show less' : foldedCount(section) > 0 ? `${foldedCount(section)} not known` : 'change'
        }}
      </button>
    </section>
  </aside>
</template>

<style scoped>
.docket {
  font-size: 14px;
  line-height: 1.35;
}
section + section {
  margin-top: 13px;
}
.fact-line {
  display: grid;
  grid-template-columns: 82px minmax(0, 1fr);
  gap: 8px;
  padding: 1px 0;
}
dt {
  color: var(--soft);
  font-size: 13px;
  padding-top: 3px;
}
.fact-line.is-long {
  grid-template-columns: minmax(0, 1fr);
  gap: 0;
}
.fold {
  min-height: 24px;
  color: var(--russet-ink);
  text-decoration: underline dotted;
  font-size: 13px;
}
</style>
