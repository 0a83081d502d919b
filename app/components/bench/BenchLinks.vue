<script setup lang="ts">
import { isShut, LINK_STATE_WORDS } from '~~/core/bench/words'

/** What is on the bench for this case; one of them is at hand. */
const store = useBenchStore()
const props = defineProps<{ chosen: string | null; mayBring: boolean }>()
const emit = defineEmits<{ choose: [link: string]; attach: []; bring: [] }>()

const tabs = computed(() => {
  const { links = [], faults = [] } = store.bench ?? {}
  return [
    ...links.map((link) => ({
      id: link.id,
      title: link.title,
      words: LINK_STATE_WORDS[link.state],
      isOpen: !isShut(link.state),
    })),
    ...faults.map((fault) => ({ id: fault.link, title: fault.link, words: 'not answering', isOpen: false })),
  ]
})

/** Arrows go from one to the next, as in any row of tabs. */
function step(by: number) {
  const at = tabs.value.findIndex((tab) => tab.id === props.chosen)
  const next = tabs.value[(at + by + tabs.value.length) % tabs.value.length]
  if (!next) return
  emit('choose', next.id)
  void nextTick(() => document.getElementById(`tab-${next.id}`)?.focus())
}
</script>

<template>
  <div class="flex items-stretch gap-3 overflow-x-auto border-b border-line px-5">
    <div role="tablist" aria-label="On the bench" class="flex gap-1">
      <button
        v-for="tab in tabs"
        :id="`tab-${tab.id}`"
        :key="tab.id"
        type="button"
        role="tab"
        :aria-selected="tab.id === chosen"
        :tabindex="tab.id === chosen ? 0 : -1"
        class="min-h-[46px] max-w-[270px] border-b-[3px] px-2.5 py-1 text-left leading-tight"
        :class="tab.id === chosen ? 'border-russet' : 'border-transparent'"
        @click="emit('choose', tab.id)"
        @keydown.right.prevent="step(1)"
        @keydown.left.prevent="step(-1)"
      >
        <span class="block truncate text-[14.5px]" :class="{ 'font-bold': tab.id === chosen }" :title="tab.title">
          {{ tab.title }}
        </span>
        <span class="text-[12.5px]" :class="tab.isOpen ? 'text-held' : 'text-soft'">
          {{ tab.isOpen ? '● ' : '○ ' }}{{ tab.words }}
        </span>
      </button>
    </div>
    <button
      type="button"
      class="shrink-0 px-2 text-[14px] text-russet-ink underline decoration-dotted"
      @click="emit('attach')"
    >
      {{ tabs.length === 0 ? 'Attach a device or copy' : 'more …' }}
    </button>
    <button
      v-if="mayBring"
      type="button"
      class="ml-auto shrink-0 px-2 text-[14px] text-russet-ink underline decoration-dotted"
      data-test="bring"
      @click="emit('bring')"
    >
      bring in files …
    </button>
  </div>
</template>
