<script setup lang="ts">
import GripVertical from 'lucide-vue-next/dist/esm/icons/grip-vertical.js'
import { movedTo, readSheetText, sheetText, type SheetLists } from '~~/core/playbook/sheet-text'

/** A run sheet, edited as text; beside it as it will stand at the bench, where its steps can be dragged. */
const sheet = defineModel<SheetLists>({ required: true })
const text = ref(sheetText(sheet.value))
watch(text, (now) => (sheet.value = readSheetText(now)))
const list = useTemplateRef<HTMLElement>('list')

function move(from: number, to: number) {
  if (to < 0 || to >= sheet.value.steps.length) return
  text.value = sheetText({ ...sheet.value, steps: movedTo(sheet.value.steps, from, to) })
}
useDragOrder(
  list,
  '[data-grip]',
  (item, by) => {
    const at = Number(item.dataset.at)
    move(at, at + by)
  },
  () => true,
)
const PARTS = [
  ['ready', 'Ready'],
  ['lookFor', 'Look for'],
  ['stopIf', 'Stop if'],
  ['aftercare', 'Afterwards'],
] as const
</script>

<template>
  <div class="grid gap-6 desk:grid-cols-2">
    <LazyTextEditor v-model="text" label="Run sheet as text" language="text" />
    <div class="border-l border-line pl-5 text-[14.5px]">
      <h3 class="section-name">Steps</h3>
      <ol ref="list" class="mt-1">
        <li
          v-for="(step, at) in sheet.steps"
          :key="`${at} ${step}`"
          :data-at="at"
          class="flex items-start gap-2 py-0.5"
          data-test="step"
        >
          <button
            type="button"
            data-grip
            class="mt-0.5 min-h-[24px] min-w-[24px] cursor-grab text-soft"
            :aria-label="`Move step ${at + 1}: arrow up or down`"
            @keydown.up.prevent="move(at, at - 1)"
            @keydown.down.prevent="move(at, at + 1)"
          >
            <GripVertical :size="15" aria-hidden="true" />
          </button>
          <span class="figure w-5 shrink-0 text-right text-[13px] text-soft">{{ at + 1 }}</span>
          <span>{{ step }}</span>
        </li>
      </ol>
      <template v-for="[part, words] in PARTS" :key="part">
        <template v-if="sheet[part].length > 0">
          <h3 class="section-name mt-3">{{ words }}</h3>
          <ul class="list-disc pl-5">
            <li v-for="(line, at) in sheet[part]" :key="at">{{ line }}</li>
          </ul>
        </template>
      </template>
    </div>
  </div>
</template>
