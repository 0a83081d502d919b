<script setup lang="ts">
import { COPY_KIND_ALSO, DEVICE_KIND_ALSO, TYPE_ALSO } from '~~/core/cases/telling/also-said'
import { optionFor } from '~~/core/cases/telling/matching'
import { wantsOf } from '~~/core/cases/telling/wants'
import type { Option } from '~~/core/cases/telling/asking'
import { nextId } from '~~/core/cases/shape/next-id'
import { COPY_KINDS } from '~~/core/cases/shape/copy'
import { DATA_TYPES } from '~~/core/cases/shape/data-types'
import { DEVICE_KINDS } from '~~/core/cases/shape/device'
import type { PartList } from '~~/core/cases/telling/sentence'
import { COPY_KIND_WORDS, DEVICE_KIND_WORDS, TYPE_WORDS, withArticle } from '~~/core/cases/telling/words'

/** The place in the telling where one more copy, wanted set or device comes in. */
const props = defineProps<{ list: PartList; question: string }>()
const emit = defineEmits<{ added: [id: string] }>()

const store = useOpenCaseStore()
const unread = useUnreadWordsStore()
const path = computed(() => unreadAdding(props.list))
const field = useTemplateRef<{ focus: () => void }>('field')

const LISTS = {
  copies: {
    letter: 'c',
    label: 'Another copy',
    fact: 'kind',
    options: COPY_KINDS.map((kind) => ({
      value: kind,
      words: withArticle(COPY_KIND_WORDS[kind]),
      also: COPY_KIND_ALSO[kind] ?? [],
    })),
  },
  wanted: {
    letter: 'w',
    label: 'Another kind of data',
    fact: 'type',
    options: DATA_TYPES.map((type) => ({ value: type, words: TYPE_WORDS[type], also: TYPE_ALSO[type] ?? [] })),
  },
  devices: {
    letter: 'd',
    label: 'Another device',
    fact: 'kind',
    options: DEVICE_KINDS.map((kind) => ({
      value: kind,
      words: withArticle(DEVICE_KIND_WORDS[kind]),
      also: DEVICE_KIND_ALSO[kind] ?? [],
    })),
  },
} as const
const list = computed(() => LISTS[props.list])

function add(option: Option): null {
  const id = nextId(list.value.letter, store.current[props.list])
  store.set([{ fact: `${props.list}.${id}`, is: { [list.value.fact]: option.value } }])
  emit('added', id)
  return null
}

function commit(typed: string): string | null {
  if (typed.trim() === '' || typed === '?') return null
  const option = optionFor(list.value.options, typed)
  const problem = option ? add(option) : `Choose one of: ${list.value.options.map((one) => one.words).join(', ')}.`
  unread.set(path.value, problem === null ? null : { typed, message: problem })
  return problem
}

defineExpose({ focus: () => field.value?.focus() })
</script>

<template>
  <WordField
    ref="field"
    :label="list.label"
    :question="question"
    :words="null"
    :options="list.options"
    stays-put
    :wants="wantsOf('choice', list.options)"
    :unread="unread.words[path] ?? null"
    :commit="commit"
    :choose="add"
    @dropped="unread.set(path, null)"
  />
</template>
