<script setup lang="ts">
import { AGREED_HOW_WORDS, AGREED_WORDS } from '~~/core/handover/words'
import type { Agreement } from '~~/core/cases/shape/agreement'
import { openingStop } from '~~/core/cases/shape/permission'

/** What the client agreed to, and taking it back. */
defineProps<{ isNext: boolean }>()
const store = useOpenCaseStore()
const shop = useHandoverStore()
const clock = useClockWords()
const isAsking = ref(false)
const shown = ref<string | null>(null)
const agreements = computed(() => store.asItIs.agreements.toReversed())
const stop = computed(() => openingStop(store.asItIs))
const takeBack = (one: Agreement) => shop.act({ do: 'take-back', agreement: one.id, reason: '' })
</script>

<template>
  <section aria-labelledby="agreements" data-test="agreements">
    <h2 id="agreements" class="text-[19px]">Agreed</h2>
    <p v-if="stop" class="mt-1 text-[14.5px] text-russet-ink">▲ {{ stop.says }}</p>
    <ul v-if="agreements.length > 0" class="mt-1">
      <li
        v-for="one in agreements"
        :key="one.id"
        class="border-t border-line py-1.5 text-[14.5px]"
        data-test="agreement"
      >
        <p class="flex items-baseline gap-3" :class="{ 'text-soft line-through': one.takenBack }">
          <span class="min-w-0 flex-1">
            <strong>{{ one.person }}{{ one.behalf ? ` for ${one.behalf}` : '' }}</strong>
            agreed to
            {{ one.what.map((what) => AGREED_WORDS[what]).join(', ') }}
          </span>
        </p>
        <p class="flex flex-wrap items-baseline gap-x-3 text-[13px] text-soft">
          {{ AGREED_HOW_WORDS[one.how] }} {{ clock.momentOf(one.at) }}, {{ one.by }}
          <template v-if="one.takenBack">taken back {{ clock.momentOf(one.takenBack.at) }}</template>
          <button
            type="button"
            class="link"
            :aria-expanded="shown === one.id"
            @click="shown = shown === one.id ? null : one.id"
          >
            the words
          </button>
          <button v-if="!one.takenBack" type="button" class="link" @click="takeBack(one)">takes it back</button>
        </p>
        <p v-if="shown === one.id" class="mt-1 whitespace-pre-line border-l-2 border-line pl-3 text-[14px]">
          {{ one.text }}
        </p>
        <a
          v-if="shown === one.id && one.signature !== null"
          :href="shop.path(`/attachments/${one.signature}`)"
          target="_blank"
          class="link"
        >
          what was signed
        </a>
      </li>
    </ul>
    <p v-else class="mt-1 text-[14.5px] text-soft">Nothing was agreed with a signature yet.</p>
    <button
      type="button"
      class="mt-2"
      :class="isNext ? 'main-action' : 'quiet-action'"
      data-test="agree"
      @click="isAsking = true"
    >
      Agree …
    </button>
    <AgreeDialog v-if="isAsking" @close="isAsking = false" />
  </section>
</template>

<style scoped>
.link {
  min-height: 24px;
  color: var(--russet-ink);
  text-decoration: underline dotted;
}
</style>
