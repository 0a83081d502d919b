<script setup lang="ts">
import type { Effect } from '~~/core/playbook/draft'
import { genericTitle } from '~~/core/playbook/periods'

/** The draft of the playbook: what is in it, what it would change, and taking it over. */
const drafts = useDraftStore()
const playbooks = usePlaybookStore()
const { send, problem } = useSending()
const reason = ref('')

const titleOf = (id: string) => {
  const kind =
    drafts.drafted?.kinds.find((one) => one.id === id) ?? playbooks.playbook?.kinds.find((one) => one.id === id)
  return kind ? genericTitle(kind) : id
}
const titles = computed(() => [...drafts.changed].map(titleOf))
const nextWords = ({ next: [was, is] }: Effect) =>
  was === is ? null : `first: ${is ?? 'nothing'}${was === null ? '' : `, in place of ${was}`}`
const shareWords = ({ expected }: Effect) =>
  expected === null ? null : `${percent(expected[1])} expected back, was ${percent(expected[0])}`
const lines = (effect: Effect) => [nextWords(effect), shareWords(effect), ...effect.says].filter((one) => one !== null)

async function take() {
  if (!(await send(() => drafts.take(reason.value)))) return
  reason.value = ''
  tellDone('The playbook is changed. The plans of open cases are made again.')
}
</script>

<template>
  <section v-if="drafts.draft" aria-labelledby="draft" class="border border-line bg-sheet p-4" data-test="draft">
    <div class="flex flex-wrap items-center gap-3">
      <h2 id="draft" class="text-[19px]">Draft</h2>
      <p class="min-w-0 flex-1 text-[15px]">
        {{ titles.join(', ') || 'settled clashes' }}
        <span class="text-soft">by {{ drafts.draft.by }}; nothing is planned with it yet</span>
      </p>
      <button
        type="button"
        :class="drafts.trial ? 'quiet-action' : 'main-action'"
        :disabled="drafts.isTrying"
        data-test="try-draft"
        @click="send(drafts.tryIt)"
      >
        {{ drafts.isTrying ? 'Trying …' : 'Try it' }}
      </button>
      <button type="button" class="quiet-action" data-test="drop-draft" @click="send(drafts.drop)">Drop it</button>
    </div>
    <p v-if="problem" role="alert" class="mt-2 text-[15px] text-russet-ink">{{ problem }}</p>
    <div v-if="drafts.trial" class="mt-3 border-t border-line pt-3" role="status" data-test="trial">
      <div class="grid gap-x-10 gap-y-4 desk:grid-cols-2">
        <div>
          <h3 class="text-[16px]">
            {{ drafts.trial.open.length === 0 ? 'No plan of' : `${countOf(drafts.trial.open.length, 'plan')} of` }}
            {{ countOf(drafts.trial.openCount, 'open case') }}
            {{ drafts.trial.open.length === 1 ? 'changes' : drafts.trial.open.length === 0 ? 'changes' : 'change' }}
          </h3>
          <ul class="mt-1 text-[14.5px]">
            <li v-for="one in drafts.trial.open" :key="one.name" class="border-t border-line py-1.5" data-test="effect">
              <NuxtLink :to="`/cases/${one.name}`" class="figure mr-2 text-[13px] underline decoration-dotted">
                {{ one.name }}
              </NuxtLink>
              {{ one.about }}
              <span v-for="line in lines(one)" :key="line" class="block text-soft">{{ line }}</span>
            </li>
          </ul>
        </div>
        <div>
          <h3 class="text-[16px]">
            {{
              drafts.trial.worked.length === 0
                ? `All ${drafts.trial.workedCount} worked cases come out as they should`
                : `${drafts.trial.worked.length} of ${drafts.trial.workedCount} worked cases no longer come out as they should`
            }}
          </h3>
          <ul class="mt-1 text-[14.5px]">
            <li
              v-for="one in drafts.trial.worked"
              :key="one.name"
              class="border-t border-line py-1.5"
              data-test="contradiction"
            >
              <strong class="font-semibold">{{ one.name.replaceAll('-', ' ') }}</strong>
              <span class="block text-soft">{{ one.about }}</span>
              <span v-for="line in one.says" :key="line" class="block">▲ {{ line }}</span>
            </li>
          </ul>
        </div>
      </div>
      <form class="mt-3 flex flex-wrap items-end gap-3" @submit.prevent="take">
        <label class="block min-w-[280px] flex-1 text-[15px]">
          Why
          <input v-model="reason" class="field" maxlength="400" required data-test="draft-reason" />
        </label>
        <button type="submit" class="main-action" data-test="take-draft">Take it over</button>
      </form>
    </div>
  </section>
</template>
