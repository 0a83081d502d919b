<script setup lang="ts">
import { answer, optionsAt, wordsOf } from '~~/core/cases/telling/answering'
import { askingOf, type Control, type Option } from '~~/core/cases/telling/asking'
import { elsewhereFor } from '~~/core/cases/telling/elsewhere'
import { wantsOf } from '~~/core/cases/telling/wants'
import { known } from '~~/core/cases/shape/fact'
import { setWords } from '~~/core/cases/telling/words'
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
  const offered = optionsAt(store.current, props.path)
  return offered.length > 0 ? offered : undefined
})
/** Answers are offered, and other text is understood too. */
const FREE: readonly Control['by'][] = ['must-have', 'several', 'parts', 'secret', 'budget']
const isFree = computed(() => isClient.value || (asking.value !== null && FREE.includes(asking.value.control.by)))
const wants = computed(() => (asking.value ? wantsOf(asking.value.control.by, options.value ?? []) : ''))

/** The part that a copy holds is asked of each wanted set; where there are several, the label says of which. */
const label = computed(() => {
  const [, , what, id] = props.path.split('.')
  const set = what === 'holds' ? store.current.wanted.find((one) => one.id === id) : undefined
  const isOneOfMany = set && store.current.wanted.length > 1
  return isOneOfMany ? `How many of the ${known(set.type) ? setWords(set) : 'items'}` : (asking.value?.label ?? '')
})

const unread = useUnreadWordsStore()
const unreadWord = computed(() => unread.words[props.path] ?? null)
const elsewhere = computed(() =>
  unreadWord.value ? elsewhereFor(store.current, props.path, unreadWord.value.typed, context.value) : null,
)

const cardWords = (card: ClientCard) =>
  [card.name, card.phone, card.cases === 1 ? '1 case' : `${card.cases} cases`].filter(Boolean).join(', ')

function commit(typed: string): string | null {
  const read = answer(store.current, props.path, typed, context.value)
  const problem = read.ok ? firstFault(store.set([...read.changes, ...read.changes.flatMap(guesses)])) : read.message
  unread.set(props.path, problem === null ? null : { typed, message: problem })
  return problem
}

/**
 * Moves what was typed here to the question that it answers. What had been typed there goes on in the same way, so that a
 * log that slipped by one question is put right at once.
 */
function moveElsewhere() {
  for (let path = props.path, found = elsewhere.value; found;) {
    store.set(found.changes)
    unread.set(path, null)
    path = found.fact
    const word = unread.words[path]
    found = word ? elsewhereFor(store.current, path, word.typed, context.value) : null
  }
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
    :label="label"
    :question="asking.question"
    :words="words"
    :options="options"
    :is-free="isFree"
    :is-numeric="path === 'client.phone'"
    :hint="`This takes ${wants}`"
    :wants="wants"
    :unread="unreadWord"
    :elsewhere="elsewhere"
    :commit="commit"
    :choose="choose"
    @typed="typed"
    @dropped="unread.set(path, null)"
    @elsewhere="moveElsewhere"
    @more="$emit('more')"
    @remove="$emit('remove')"
  />
</template>
