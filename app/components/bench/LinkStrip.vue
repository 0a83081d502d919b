<script setup lang="ts">
import type { LinkState, Need } from '~~/core/bench/state'
import { ANSWER_FIELDS, ANSWER_WORDS, isShut } from '~~/core/bench/words'

/** The state of the selected link, and what it needs next. */
const props = defineProps<{ link: LinkState }>()
const store = useBenchStore()
const clock = useClockWords()
const field = useTemplateRef<HTMLInputElement>('field')
const shut = computed(() => isShut(props.link.state))
const next = computed<Need | null>(() => (shut.value ? (props.link.needs[0] ?? null) : null))
/** what the client left for what is asked now */
const { typed, noted, fillIn } = useNotedSecret(() => ({
  part: store.bench?.parts.find((one) => one.link === props.link.id)?.part ?? null,
  kind: next.value?.answer ?? null,
}))
watch(
  () => `${props.link.id} ${props.link.state}`,
  () => (typed.value = ''),
)
/** another way to continue, where there is one */
const others = computed(() => props.link.needs.filter((need) => need !== next.value && need.answer !== 'sign-out'))
const facts = computed(() => {
  const { link } = props
  return [
    link.power && `battery ${Math.round(link.power.fraction * 100)}%${link.power.isCharging ? ', charging' : ''}`,
    link.room && `${sizeWords(link.room.free)} free of ${sizeWords(link.room.capacity)}`,
    link.kind === 'phone' && (link.isOnline ? 'on the network' : 'off the network'),
    link.encryption && link.encryption !== 'none' && 'encrypted',
    link.account &&
      link.kind === 'phone' &&
      `${link.account.isSyncing ? 'syncs' : 'does not sync'} with ${link.account.name}`,
    link.sessionEnds && `signed in until ${clock.timeOf(link.sessionEnds)}`,
  ].filter((one): one is string => typeof one === 'string')
})
const isTriesLow = computed(
  () => props.link.triesLeft !== null && props.link.triesEnd === 'erases' && props.link.triesLeft <= 5,
)

async function give(need: Need, value = typed.value) {
  if (ANSWER_FIELDS[need.answer] && value === '') {
    field.value?.focus()
    return
  }
  typed.value = ''
  await store.answer(props.link.id, need.answer, value)
}
</script>

<template>
  <section aria-label="Status" class="strip" data-test="strip">
    <div class="min-w-0 flex-1">
      <p class="font-head text-[19px] font-bold leading-snug" data-test="link-says">{{ link.says }}</p>
      <p class="figure mt-1 flex flex-wrap gap-x-5 text-[12.5px] text-[#d9c9b6]">
        <span v-for="fact in facts" :key="fact">{{ fact }}</span>
      </p>
      <p v-if="isTriesLow && link.state === 'locked'" class="mt-1.5 text-[14px] font-bold text-[#ffcf8f]">
        ▲ {{ link.triesLeft }} tries left before it erases itself. Do not guess.
      </p>
    </div>
    <form v-if="next" class="need" @submit.prevent="give(next, next.choices.length === 1 ? next.choices[0] : typed)">
      <p id="need-says" class="text-[14px] leading-snug">
        <strong>Next:</strong>
        {{ next.says }}
        <span v-if="next.byHand" class="text-[#d9c9b6]">Do this on the device itself.</span>
      </p>
      <div class="mt-2 flex gap-2">
        <input
          v-if="ANSWER_FIELDS[next.answer]"
          ref="field"
          v-model="typed"
          :type="next.answer === 'second-factor' ? 'text' : 'password'"
          autocomplete="off"
          :inputmode="next.answer === 'password' ? 'text' : 'numeric'"
          :aria-label="ANSWER_FIELDS[next.answer]"
          aria-describedby="need-says"
          :placeholder="ANSWER_FIELDS[next.answer]"
          class="field"
        />
        <select v-else-if="next.choices.length > 1" v-model="typed" class="field" :aria-label="next.says">
          <option v-for="choice in next.choices" :key="choice" :value="choice">{{ choice }}</option>
        </select>
        <button type="submit" class="main-action shrink-0" data-test="answer">
          {{ ANSWER_WORDS[next.answer] }}
        </button>
      </div>
      <button
        v-if="noted"
        type="button"
        class="turn mt-1"
        data-test="fill-in"
        @click="fillIn().then(() => field?.focus())"
      >
        Fill in the {{ noted.kind }} that the client left
      </button>
    </form>
    <div v-if="others.length > 0" class="flex flex-col items-start gap-1">
      <template v-for="need in others" :key="need.answer + need.says">
        <button
          v-for="choice in need.choices.length > 0 ? need.choices : ['']"
          :key="choice"
          type="button"
          class="turn"
          :title="need.says"
          :disabled="store.isBusy"
          @click="give(need, choice || 'on')"
        >
          {{ turnWords(need, choice) }}
        </button>
      </template>
    </div>
  </section>
</template>

<script lang="ts">
/** What the small switches beside the state do. */
function turnWords(need: Need, choice: string): string {
  if (need.answer === 'charger') return 'Put it on a charger'
  if (need.answer === 'network') return choice === 'on' ? 'Put it on the network' : 'Take it off the network'
  if (need.answer === 'debugging') return 'Debugging is on'
  if (need.answer === 'trust') return `Use ${choice.replaceAll('-', ' ')}, which it trusts`
  return ANSWER_WORDS[need.answer]
}
</script>

<style scoped>
.strip {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 12px 28px;
  padding: 14px 20px;
  background: #2b211d;
  color: #fbf1e2;
}
.need {
  width: 390px;
  max-width: 100%;
}
.turn {
  min-height: 26px;
  color: #ffdca6;
  text-decoration: underline dotted;
  text-underline-offset: 3px;
  font-size: 13.5px;
  text-align: left;
}
.strip :focus-visible {
  outline-color: #ffcf8f;
}
</style>
