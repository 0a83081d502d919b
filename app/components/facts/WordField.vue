<script setup lang="ts">
import { NOT_KNOWN } from '~~/core/cases/telling/answering'
import { optionsMatching } from '~~/core/cases/telling/matching'
import { TriangleAlert } from 'lucide-vue-next'
import type { Option } from '~~/core/cases/telling/asking'

/**
 * One word of a sentence as a control: typed in place, with its answers in the dock, where they cover nothing. Tab
 * moves on and never answers; first letters choose; ? means not known.
 */
const props = defineProps<{
  label: string
  question: string
  words: string | null
  options?: readonly Option[]
  /** suggestions are offered, but what is typed counts as it is unless one is chosen */
  isFree?: boolean
  isNumeric?: boolean
  /** the parent decides where the focus goes next */
  staysPut?: boolean
  hint?: string
  /** what it takes, in a few words: beside a word that was not understood */
  wants?: string
  /** what was typed before and not understood */
  unread?: { readonly typed: string; readonly message: string } | null
  /** the question to which that is an answer */
  elsewhere?: { readonly label: string; readonly words: string } | null
  /** takes the typed text; returns what is wrong with it, or nothing */
  commit: (typed: string) => string | null
  /** takes a chosen answer that is more than its words */
  choose?: (option: Option) => string | null
}>()
const emit = defineEmits<{ typed: [string]; more: []; remove: []; dropped: []; elsewhere: [] }>()

const id = useId()
const dock = inject<string | null>('answer-dock', null)
const input = useTemplateRef<HTMLInputElement>('input')
const draft = ref<string | null>(props.unread?.typed ?? null)
const problem = ref<string | null>(props.unread?.message ?? null)
const isFocused = ref(false)
const moved = ref('')
const active = ref(-1)

const shown = computed(() => draft.value ?? props.words ?? '')
const matching = computed(() => {
  const options = props.options ?? []
  return draft.value === null || props.isFree || problem.value !== null
    ? [...options]
    : optionsMatching(options, draft.value)
})
const isOpen = computed(() => isFocused.value && matching.value.length > 0)
// Put right from elsewhere: moved to another question, or set by somebody else.
watch(
  () => props.unread,
  (now, before) => {
    if (now || !before || draft.value !== before.typed) return
    problem.value = null
    reset()
  },
)
const activeOption = computed(() => matching.value[active.value] ?? null)

function typed(event: Event) {
  draft.value = (event.target as HTMLInputElement).value
  problem.value = null
  active.value = props.options && !props.isFree && draft.value !== '' ? 0 : -1
  emit('typed', draft.value)
}

function take(option: Option) {
  problem.value = (props.choose ?? ((one: Option) => props.commit(one.words)))(option)
  if (problem.value === null) reset()
}

function settle() {
  if (activeOption.value) return take(activeOption.value)
  if (draft.value === null || problem.value !== null) return
  problem.value = props.commit(draft.value)
  // All answers are offered now; none of them is chosen.
  active.value = -1
  if (problem.value === null) reset()
}

function reset() {
  draft.value = null
  active.value = -1
}

/** The words of the page in their order. */
const wordsAround = () => [
  ...(input.value?.closest('[data-words]')?.querySelectorAll<HTMLInputElement>('input[data-word]') ?? []),
]

/** Goes on to the next word after `answering`: to one that the answer has brought, or where this word went with it, to the one that followed it. */
async function goOnAfter(answering: () => void) {
  const before = wordsAround()
  const followers = before.slice(before.indexOf(input.value!) + 1)
  answering()
  await nextTick()
  if (problem.value !== null) return
  const words = wordsAround()
  const next = input.value ? words[words.indexOf(input.value) + 1] : followers.find((one) => one.isConnected)
  next?.focus()
}

function pressed(event: KeyboardEvent) {
  if (event.key === NOT_KNOWN && !event.ctrlKey && (draft.value === null || draft.value === '')) {
    event.preventDefault()
    void goOnAfter(() => {
      problem.value = props.commit(NOT_KNOWN)
      reset()
    })
  } else if (event.key === '+' && (draft.value === null || draft.value === '') && !props.isNumeric) {
    event.preventDefault()
    emit('more')
  } else if (event.key === 'Delete' && event.ctrlKey) {
    event.preventDefault()
    emit('remove')
  } else if (event.key === 'Enter' && !event.ctrlKey && !event.metaKey) {
    event.preventDefault()
    if (problem.value !== null && props.elsewhere) return move()
    if (props.staysPut) settle()
    else void goOnAfter(settle)
    // What is typed next takes the place of what was not understood.
    if (problem.value !== null) input.value?.select()
  } else if (event.key === 'Escape' && (draft.value !== null || active.value >= 0 || problem.value)) {
    event.preventDefault()
    problem.value = null
    emit('dropped')
    reset()
  } else if ((event.key === 'ArrowDown' || event.key === 'ArrowUp') && matching.value.length > 0) {
    event.preventDefault()
    const count = matching.value.length
    active.value = event.key === 'ArrowDown' ? (active.value + 1) % count : (active.value - 1 + count) % count
  } else if (event.key === 'Tab') settle()
}

/** What was typed goes to the question that it answers; this one is open again. */
function move() {
  if (props.elsewhere) moved.value = `Put under ${props.elsewhere.label}: ${props.elsewhere.words}.`
  emit('elsewhere')
}

function entered() {
  isFocused.value = true
  // Selecting also focuses, so a word that has lost the focus must not be selected: two words would take it from each
  // other for ever.
  void nextTick(() => {
    if (document.activeElement === input.value) input.value?.select()
  })
}

function left() {
  settle()
  isFocused.value = false
  active.value = -1
}

defineExpose({ focus: () => input.value?.focus() })
</script>

<template>
  <span class="word" :class="{ 'is-unknown': shown === '', 'is-wrong': problem !== null }">
    <input
      ref="input"
      data-word
      type="text"
      autocomplete="off"
      autocapitalize="off"
      spellcheck="false"
      :inputmode="isNumeric ? 'tel' : 'text'"
      :value="shown"
      :placeholder="question"
      :size="Math.max(3, (shown || question).length)"
      :role="options ? 'combobox' : undefined"
      :aria-expanded="options ? isOpen : undefined"
      :aria-controls="options && isOpen ? `${id}-list` : undefined"
      :aria-activedescendant="activeOption ? `${id}-${active}` : undefined"
      :aria-autocomplete="options ? 'list' : undefined"
      :aria-label="label"
      :aria-invalid="problem !== null || undefined"
      :aria-describedby="problem ? `${id}-problem` : undefined"
      @input="typed"
      @keydown="pressed"
      @focus="entered"
      @blur="left"
    />
    <span v-if="problem && !isFocused" class="beside">
      <TriangleAlert class="beside-mark" aria-hidden="true" />
      <span :id="`${id}-problem`">
        <span class="sr-only">Not understood:</span>
        wants {{ wants ?? 'one of the answers' }}
      </span>
      <button v-if="elsewhere" type="button" tabindex="-1" class="move" data-test="move-elsewhere" @click="move">
        {{ elsewhere.label }}: {{ elsewhere.words }}?
      </button>
    </span>
    <span v-if="moved" class="sr-only" role="status">{{ moved }}</span>
    <Teleport v-if="isFocused" :to="dock ?? 'body'" :disabled="dock === null" defer>
      <span class="answers" :class="dock ? 'is-docked' : 'is-below'">
        <span class="answers-label">{{ label }}</span>
        <span v-if="problem" :id="`${id}-problem`" role="alert" class="answers-problem">
          {{ isOpen && !isFree ? 'Not one of these.' : problem }}
          <template v-if="elsewhere">
            It fits “{{ elsewhere.label }}”:
            <kbd class="key-cap">Enter</kbd>
            puts it there.
          </template>
        </span>
        <span v-if="isOpen" :id="`${id}-list`" role="listbox" :aria-label="label" class="answers-list">
          <span
            v-for="(option, index) in matching"
            :id="`${id}-${index}`"
            :key="option.value"
            role="option"
            :aria-selected="index === active"
            class="answers-option"
            :class="{ 'is-active': index === active, 'is-set': option.words === words }"
            @mousedown.prevent="take(option)"
          >
            {{ option.words }}
          </span>
        </span>
        <span v-else-if="hint && !problem" class="answers-hint">{{ hint }}</span>
        <span class="answers-unknown">
          <kbd class="key-cap">?</kbd>
          not known
        </span>
      </span>
    </Teleport>
  </span>
</template>

<style scoped>
.word {
  position: relative;
  display: inline-block;
  max-width: 100%;
}
input {
  field-sizing: content;
  min-width: 2ch;
  max-width: 100%;
  padding: 0 1px;
  min-height: 24px;
  line-height: 1.2;
  background: transparent;
  color: inherit;
  font-weight: 700;
  border-bottom: 1px solid var(--soft);
  text-overflow: ellipsis;
}
input::placeholder {
  color: var(--russet-ink);
  font-weight: 400;
  opacity: 1;
}
.is-unknown input {
  border-bottom: 2px dotted var(--russet);
}
input:focus {
  outline: 2px solid var(--russet);
  outline-offset: 2px;
  background: var(--sheet);
}
.is-wrong {
  display: inline;
}
/* A word that was not understood is none of the case's words: it is neither bold nor on their line. */
.is-wrong input {
  font-family: var(--font-mono);
  font-weight: 400;
  font-size: 0.88em;
  color: var(--russet-ink);
  border-bottom: 0;
  text-decoration: underline wavy var(--russet);
  text-decoration-skip-ink: none;
  text-underline-offset: 4px;
}
.beside {
  margin: 0 2px 0 6px;
  font-size: 13px;
  font-weight: 400;
  color: var(--russet-ink);
}
.beside-mark {
  display: inline-block;
  width: 14px;
  height: 14px;
  margin-right: 3px;
  vertical-align: -2px;
}
.move {
  margin-left: 6px;
  min-height: 24px;
  padding: 0 6px;
  border: 1px solid var(--russet);
  font-weight: 650;
}
.answers {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 10px;
  font-size: 14px;
  font-weight: 400;
  line-height: 1.4;
  color: var(--ink);
}
.answers.is-below {
  position: absolute;
  z-index: 30;
  left: -6px;
  top: calc(100% + 4px);
  width: max-content;
  max-width: 300px;
  padding: 8px 10px;
  background: var(--sheet);
  border: 1px solid var(--soft);
}
.answers-label {
  font-family: var(--font-head);
  font-weight: 650;
  color: var(--russet-ink);
}
.answers-list {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
}
.answers-option {
  display: inline-flex;
  align-items: center;
  min-height: 26px;
  padding: 0 8px;
  border: 1px solid var(--line);
  background: var(--sheet);
  cursor: pointer;
}
.answers-option.is-set {
  border-color: var(--ink);
}
.answers-option.is-active,
.answers-option:hover {
  background: var(--chosen);
  border-color: var(--russet);
}
.answers-problem {
  color: var(--russet-ink);
  font-weight: 650;
}
.answers-hint,
.answers-unknown {
  color: var(--soft);
}
</style>
