<script setup lang="ts">
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands'
import { json } from '@codemirror/lang-json'
import { EditorState } from '@codemirror/state'
import { EditorView, keymap, lineNumbers } from '@codemirror/view'

/** A text of several lines; Tab leaves it, as it leaves any field. */
const props = defineProps<{ label: string; language: 'json' | 'text'; isReadOnly?: boolean }>()
const text = defineModel<string>({ required: true })
const box = useTemplateRef<HTMLElement>('box')
let view: EditorView | null = null

onMounted(() => {
  view = new EditorView({
    parent: box.value!,
    state: EditorState.create({
      doc: text.value,
      extensions: [
        history(),
        keymap.of([...defaultKeymap, ...historyKeymap]),
        EditorView.lineWrapping,
        EditorState.readOnly.of(props.isReadOnly === true),
        EditorView.contentAttributes.of({ 'aria-label': props.label }),
        ...(props.language === 'json' ? [json(), lineNumbers()] : []),
        EditorView.updateListener.of((update) => {
          if (update.docChanged) text.value = update.state.doc.toString()
        }),
      ],
    }),
  })
})
watch(text, (now) => {
  if (view && view.state.doc.toString() !== now)
    view.dispatch({ changes: { from: 0, to: view.state.doc.length, insert: now } })
})
onBeforeUnmount(() => view?.destroy())
</script>

<template>
  <div ref="box" class="text-editor" />
</template>

<style scoped>
.text-editor :deep(.cm-editor) {
  border: 1px solid var(--soft);
  background: var(--sheet);
  color: var(--ink);
  font-size: 14px;
}
.text-editor :deep(.cm-editor.cm-focused) {
  outline: 2px solid var(--russet);
  outline-offset: 1px;
}
.text-editor :deep(.cm-scroller) {
  font-family: var(--font-text);
  line-height: 1.5;
}
.text-editor :deep(.cm-gutters) {
  background: var(--sheet);
  color: var(--soft);
  border-right: 1px solid var(--line);
}
.text-editor :deep(.cm-content) {
  caret-color: var(--ink);
}
.text-editor :deep(.cm-cursor) {
  border-left-color: var(--ink);
}
</style>
