<script setup lang="ts">
import { FAMILY_WORDS } from '~~/core/playbook/family-words'
import { FAMILIES } from '~~/core/playbook/kinds/route-kind'
import { genericTitle } from '~~/core/playbook/periods'

/** Every kind of route, by family; each opens its page. */
const drafts = useDraftStore()
const groups = computed(() =>
  FAMILIES.map((family) => ({
    family,
    kinds: (drafts.drafted?.kinds ?? []).filter((kind) => kind.family === family),
  })).filter(({ kinds }) => kinds.length > 0),
)
const clashes = computed(() => new Set(drafts.clashes.map(({ kind }) => kind)))
</script>

<template>
  <section aria-labelledby="routes">
    <h2 id="routes" class="text-[19px]">Kinds of routes</h2>
    <div class="mt-1 columns-1 gap-8 md:columns-2">
      <div v-for="group in groups" :key="group.family" class="mb-3 break-inside-avoid">
        <h3 class="section-name">{{ FAMILY_WORDS[group.family] }}</h3>
        <ul class="text-[14.5px]">
          <li v-for="kind in group.kinds" :key="kind.id" class="py-0.5">
            <NuxtLink :to="`/playbook/${kind.id}`" class="inline-block min-h-[24px] underline decoration-dotted">
              {{ genericTitle(kind) }}
            </NuxtLink>
            <span v-if="drafts.changed.has(kind.id)" class="ml-2 bg-chosen px-1 text-[13px]">in the draft</span>
            <span v-if="clashes.has(kind.id)" class="ml-2 text-[13px] text-russet-ink">▲ clash</span>
          </li>
        </ul>
      </div>
    </div>
  </section>
</template>
