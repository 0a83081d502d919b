<script setup lang="ts">
import { DEVICE_KIND_WORDS, PLATFORM_WORDS } from '~~/core/cases/telling/words'
import type { KnownModel } from '~~/core/playbook/models'
import { DISCARD_WORDS, ENCRYPTION_WORDS, STORAGE_WORDS } from '~~/core/playbook/model-words'

/** The makers and models that the shop knows, for first guesses while a model is typed. */
const props = defineProps<{ models: readonly KnownModel[]; isMine: boolean }>()
/** the entry that is being changed; empty for a new one, null for none */
const open = ref<string | null>(null)
const openModel = computed(() => props.models.find(({ make }) => make === open.value) ?? null)

const partsOf = (model: KnownModel) => [
  model.kind && DEVICE_KIND_WORDS[model.kind],
  model.platform && PLATFORM_WORDS[model.platform],
  model.storage && STORAGE_WORDS[model.storage],
  model.encryption && ENCRYPTION_WORDS[model.encryption],
  model.discard && DISCARD_WORDS[model.discard],
]
const wordsOf = (model: KnownModel) => [...new Set(partsOf(model).filter(Boolean))].join(', ')
const sorted = computed(() => props.models.toSorted((one, other) => one.make.localeCompare(other.make, 'en')))
</script>

<template>
  <section aria-labelledby="makers">
    <h2 id="makers" class="pt-[3px] text-[22px]">Makers and models</h2>
    <p class="mt-1 max-w-[62ch] text-[15px] text-soft">
      When a maker or model is typed in the log, what is known of it is filled in as first guesses. The longest matching
      entry wins, so that one model can differ from the rest of its maker.
    </p>
    <ul class="mt-3 divide-y divide-line border-y border-line">
      <li v-for="model in sorted" :key="model.make" class="py-[7px]">
        <div class="flex items-baseline gap-3">
          <strong class="w-[140px] shrink-0 truncate" :title="model.make">{{ model.make }}</strong>
          <span class="min-w-0 flex-1 text-[15px]">{{ wordsOf(model) || 'nothing known' }}</span>
          <button
            v-if="isMine"
            type="button"
            class="min-h-[24px] text-[14px] text-russet-ink underline decoration-dotted"
            :aria-expanded="open === model.make"
            :aria-label="`Change ${model.make}`"
            @click="open = open === model.make ? null : model.make"
          >
            change
          </button>
        </div>
        <ModelForm v-if="openModel === model" :key="model.make" :model="model" @done="open = null" />
      </li>
      <li v-if="models.length === 0" class="py-2 text-soft">No makers yet.</li>
    </ul>
    <template v-if="isMine">
      <button v-if="open !== ''" type="button" class="quiet-action mt-3" @click="open = ''">
        Add a maker or model
      </button>
      <ModelForm v-else :model="null" @done="open = null" />
      <ModelList class="mt-3" :count="models.length" />
    </template>
  </section>
</template>
