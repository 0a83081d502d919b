<script setup lang="ts">
import { answer, optionsOf, wordsOf } from '~~/core/cases/telling/answering'
import { askingOf, type Control, type Option } from '~~/core/cases/telling/asking'
import type { ClientCard } from '~~/core/cases/shape/summary'
import { guessesFrom } from '~~/core/playbook/models'

/** The word of one fact of the open case. */
const props = defineProps<{ path: string }>()
defineEmits<{ more: []; remove: [] }>()

const store = useOpenCaseStore()
const playbooks = usePlaybookStore()
const context = useAnswerContext()
const asking = computed(() => askingOf(props.path))
const words = computed(() => wordsOf(store.current, props.path, context.value))
const isClient = computed(() => props.path === 'client.name' || props.path === 'client.phone')
const cards = useClientCards()
const options = computed<readonly Option[] | undefined>(() => {
  if (isClient.value) return cards.found.value.map((card) => ({ value: card.id, words: cardWords(card) }))
  const offered = asking.value ? optionsOf(asking.value.control) : []
  return offered.length > 0 ? offered : undefined
})
const isFree = computed(
  () => isClient.value || asking.value?.control.by === 'must-have' || asking.value?.control.by === 'several',
)

const HINTS: Partial<Record<Control['by'], string>> = {
  size: 'Such as 128 GB or 4.1 GB',
  count: 'Such as about 310',
  money: 'Such as 120',
  time: 'Such as last tuesday evening, 3 weeks ago, 1 to 5 march',
  'must-have': 'All, none, or when those were made: 3 to 8 nov',
  'card-since': 'Such as 1 nov, or 3 weeks ago',
}

const cardWords = (card: ClientCard) =>
  [card.name, card.phone, card.cases === 1 ? '1 case' : `${card.cases} cases`].filter(Boolean).join(', ')

function commit(typed: string): string | null {
  const read = answer(store.current, props.path, typed, context.value)
  if (!read.ok) return read.message
  return firstFault(store.set([read.change, ...guesses(read.change)]))
}

/** A maker or model that the shop knows gives first guesses for facts that nobody has stated. */
function guesses({ fact, is }: { fact: string; is: unknown }) {
  const [list, id, what] = fact.split('.')
  const isMake = list === 'devices' && what === 'make' && typeof is === 'string' && id !== undefined
  return isMake ? guessesFrom(playbooks.playbook?.shop.models ?? [], store.current, id, is) : []
}

function choose(option: Option): string | null {
  const card = isClient.value ? cards.found.value.find((one) => one.id === option.value) : undefined
  if (!card) return commit(option.words)
  return firstFault(
    store.set([
      { fact: 'client.id', is: card.id },
      { fact: 'client.name', is: card.name },
      { fact: 'client.phone', is: card.phone ?? 'unknown' },
      { fact: 'client.mail', is: card.mail ?? 'unknown' },
    ]),
  )
}

const firstFault = (faults: ReturnType<typeof store.set>) => (faults[0] ? `That ${faults[0].message}.` : null)

function typed(text: string) {
  if (isClient.value) cards.find(text)
}
</script>

<template>
  <WordField
    v-if="asking"
    :label="asking.label"
    :question="asking.question"
    :words="words"
    :options="options"
    :is-free="isFree"
    :is-numeric="path === 'client.phone'"
    :hint="HINTS[asking.control.by]"
    :commit="commit"
    :choose="choose"
    @typed="typed"
    @more="$emit('more')"
    @remove="$emit('remove')"
  />
</template>
