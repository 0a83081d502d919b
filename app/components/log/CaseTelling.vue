<script setup lang="ts">
import type { PartList, Piece, Sentence } from '~~/core/cases/telling/sentence'
import { tellingOf } from '~~/core/cases/telling/telling'

/** The case as sentences whose words are its facts. */
const store = useOpenCaseStore()
const root = useTemplateRef<HTMLElement>('root')
const sentences = computed(() => tellingOf(store.current).map((one) => ({ ...one, pieces: keyed(one) })))

/**
 * The pieces of a sentence, each with a key that stays when words appear before it: a text goes by the word that it
 * leads to. A word whose key changed places would be moved on the page, and lose the focus while somebody types.
 */
function keyed({ pieces }: Sentence) {
  const nameOf = (piece: Piece | undefined) =>
    !piece ? 'end' : 'fact' in piece ? piece.fact : 'add' in piece ? piece.add : null
  return pieces.map((piece, index) => {
    const own = nameOf(piece)
    const after = pieces.slice(index + 1).findIndex((one) => !('text' in one))
    const next = nameOf(after < 0 ? undefined : pieces[index + 1 + after])
    return { piece, key: own ?? `${after}:${next}` }
  })
}

async function focusSentence(id: string, place: 'first' | 'second' = 'first') {
  await nextTick()
  await nextTick()
  const words = root.value?.querySelectorAll<HTMLInputElement>(`[data-sentence="${id}"] input[data-word]`)
  words?.[place === 'second' ? 1 : 0]?.focus()
}

function added(list: PartList, id: string) {
  if (list === 'copies') void focusSentence(`copy-${id}`)
  else if (list === 'wanted') void focusSentence(`wanted-${id}`, 'second')
  else void focusSentence(`device-${id}`)
}

function goToAdding() {
  root.value?.querySelector<HTMLInputElement>('[data-sentence="more"] input[data-word]')?.focus()
}

function takeOut({ part }: Pick<Sentence, 'part'>) {
  if (!part) return
  const fact = `${part.list}.${part.id}`
  const was = store.current[part.list].find((one) => one.id === part.id)
  store.set([{ fact, is: null }])
  tellDone(`Removed ${part.words}.`, () => store.set([{ fact, is: was }]))
  void focusSentence('more')
}
</script>

<template>
  <div ref="root" data-words class="telling">
    <p v-for="sentence in sentences" :key="sentence.id" :data-sentence="sentence.id">
      <template v-for="{ piece, key } in sentence.pieces" :key="key">
        <template v-if="'text' in piece">{{ piece.text }}</template>
        <FactWord v-else-if="'fact' in piece" :path="piece.fact" @more="goToAdding" @remove="takeOut(sentence)" />
        <AddWord v-else :list="piece.add" :question="piece.question" @added="(id: string) => added(piece.add, id)" />
      </template>
      <button
        v-if="sentence.part"
        type="button"
        tabindex="-1"
        class="take-out"
        :title="`Remove ${sentence.part.words} (Ctrl Delete in one of its words)`"
        @click="takeOut(sentence)"
      >
        Remove
      </button>
    </p>
  </div>
</template>

<style scoped>
.telling {
  font-size: 19px;
  line-height: 1.58;
  white-space: pre-wrap;
}
.telling p {
  margin-bottom: 11px;
}
.take-out {
  margin-left: 8px;
  min-height: 24px;
  padding: 0 4px;
  font-size: 13px;
  color: var(--soft);
  text-decoration: underline dotted;
}
</style>
