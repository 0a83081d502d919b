<script setup lang="ts">
import type { SearchAnswer, SearchMatch } from '~~/core/search/answers'

/** What the search found: clients first, then cases with what matched where. Arrows go from one to the next. */
const props = defineProps<{ found: SearchAnswer; sought: string }>()
const list = useTemplateRef<HTMLElement>('list')

function go(step: number) {
  const links = [...(list.value?.querySelectorAll<HTMLElement>('a') ?? [])]
  const at = links.findIndex((one) => one === document.activeElement)
  links[Math.min(links.length - 1, Math.max(0, at + step))]?.focus()
}

/** The text cut where marks begin and end; every second part is marked. */
function partsOf({ text, marks }: SearchMatch): string[] {
  const cuts = [0, ...marks.flat(), text.length]
  return cuts.slice(1).map((to, at) => text.slice(cuts[at]!, to))
}

const cases = computed(() =>
  props.found.cases.map((one) => ({
    ...one,
    matches: one.matches.map((match) => ({ where: match.where, parts: partsOf(match) })),
  })),
)
defineExpose({ go: () => go(1) })
</script>

<template>
  <div ref="list" class="max-w-[980px]" @keydown.down.prevent="go(1)" @keydown.up.prevent="go(-1)">
    <section v-if="found.clients.length > 0" class="mb-5" aria-labelledby="found-clients">
      <h2 id="found-clients" class="mb-1 text-[15px] text-soft">Clients</h2>
      <ul>
        <li v-for="client in found.clients" :key="client.id" class="found-line">
          <NuxtLink :to="`/clients/${client.id}`" class="font-bold">{{ client.name }}</NuxtLink>
          <span class="figure text-[13px] text-soft">{{ client.phone ?? client.mail }}</span>
          <span class="text-soft">{{ client.cases === 1 ? 'one case' : `${client.cases} cases` }}</span>
        </li>
      </ul>
    </section>
    <section v-if="cases.length > 0" aria-labelledby="found-cases">
      <h2 id="found-cases" class="mb-1 text-[15px] text-soft">Cases</h2>
      <ul>
        <li v-for="one in cases" :key="one.code" class="border-b border-line py-2" data-test="found-case">
          <div class="found-line">
            <NuxtLink :to="`/cases/${one.code}`" :aria-label="`${one.code}, ${one.client}, ${one.what}`">
              <span class="figure mr-3 text-[14px]">{{ one.code }}</span>
              <strong>{{ one.client }}</strong>
            </NuxtLink>
            <span class="min-w-0 truncate text-soft">{{ one.what }}</span>
            <span class="ml-auto shrink-0 text-[13px] text-soft">{{ one.state }}</span>
          </div>
          <p v-for="match in one.matches" :key="match.where + match.parts.join('|')" class="mt-0.5 text-[14px]">
            <span class="text-soft">{{ match.where }}:</span>
            {{ ' ' }}
            <template v-for="(part, at) in match.parts" :key="at">
              <mark v-if="at % 2 === 1" class="bg-chosen font-bold text-ink">{{ part }}</mark>
              <template v-else>{{ part }}</template>
            </template>
          </p>
          <p v-if="one.more > 0" class="text-[13px] text-soft">and {{ one.more }} more</p>
        </li>
      </ul>
      <p v-if="found.hasMore" class="mt-2 text-soft">There are more. Type further words to find fewer.</p>
    </section>
  </div>
</template>

<style scoped>
.found-line {
  display: flex;
  align-items: baseline;
  gap: 14px;
  min-height: 28px;
}
</style>
