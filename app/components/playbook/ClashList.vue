<script setup lang="ts">
import type { DraftAnswer } from '~~/core/playbook/draft'

/** Fields that both the shop and a newer version of the program have changed, each with its decision. */
const props = defineProps<{ kind: string; clashes: DraftAnswer['clashes'] }>()
const emit = defineEmits<{ settled: [] }>()
const drafts = useDraftStore()
const { send, problem } = useSending()
const own = computed(() => props.clashes.filter(({ kind }) => kind === props.kind))
const said = (value: unknown) => (typeof value === 'string' ? value : JSON.stringify(value))

async function settle(field: string, takes: 'own' | 'shipped') {
  if (await send(() => drafts.change({ what: 'settle', kind: props.kind, field, takes }))) emit('settled')
}
</script>

<template>
  <section
    v-if="own.length > 0"
    aria-labelledby="clashes"
    class="border-l-4 border-russet bg-sheet p-3"
    data-test="clashes"
  >
    <h2 id="clashes" class="text-[17px]">▲ You changed this, and so did the new version</h2>
    <ul>
      <li v-for="one in own" :key="one.field" class="mt-2 text-[15px]">
        <span class="figure text-[13px]">{{ one.field }}</span>
        <span class="ml-2">yours: {{ said(one.own) }}; shipped now: {{ said(one.shipped) }}</span>
        <span class="ml-3 inline-flex gap-2">
          <button type="button" class="quiet-action" @click="settle(one.field, 'own')">Keep yours</button>
          <button type="button" class="quiet-action" @click="settle(one.field, 'shipped')">Take the shipped one</button>
        </span>
      </li>
    </ul>
    <p v-if="problem" role="alert" class="text-[15px] text-russet-ink">{{ problem }}</p>
  </section>
</template>
