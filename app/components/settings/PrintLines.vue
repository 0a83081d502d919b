<script setup lang="ts">
import { PAPER_KINDS, SHEET_SIZES, SheetSize, sizeOfSheet, type PaperKind } from '~~/core/playbook/printing'
import type { Shop } from '~~/core/playbook/shop'

/** What is printed on what: a size for each kind of sheet, and the labels. */
const props = defineProps<{ shop: Shop }>()
const { keep, forget, problemAt } = useSettingLines()
const WORDS: Record<PaperKind, string> = {
  received: 'Receipt, handed in',
  returned: 'Receipt, given back',
  options: 'What can be tried',
  paid: 'Receipt, money',
  report: 'Report',
  annex: 'Report with annex',
}
const SIZES = Object.keys(SHEET_SIZES) as SheetSize[]
const used = computed(() =>
  SIZES.filter((size) => PAPER_KINDS.some((kind) => sizeOfSheet(props.shop.printing, kind) === size)),
)
const choose = (which: PaperKind, event: Event) =>
  void keep(which, { what: 'sheet-size', which, is: SheetSize.parse((event.target as HTMLSelectElement).value) })
const LABEL = [
  { which: 'labelWidth', label: 'Label, width' },
  { which: 'labelHeight', label: 'Label, height' },
] as const
const setLabel = (which: 'labelWidth' | 'labelHeight', is: number | null) =>
  void keep(which, { what: 'label', which, is: is ?? Number.NaN })
</script>

<template>
  <section aria-labelledby="printing">
    <h2 id="printing" class="mb-1 text-[19px]">Printing</h2>
    <div v-for="kind in PAPER_KINDS" :key="kind" class="flex items-center gap-3 border-t border-line py-1 text-[15px]">
      <label :for="`size-${kind}`" class="flex-1">{{ WORDS[kind] }}</label>
      <select
        :id="`size-${kind}`"
        class="field !min-h-[30px] !w-[110px] !py-0"
        :value="sizeOfSheet(shop.printing, kind)"
        @change="choose(kind, $event)"
      >
        <option v-for="size in SIZES" :key="size" :value="size">{{ size }}</option>
      </select>
    </div>
    <FigureLine
      v-for="one in LABEL"
      :key="one.which"
      :label="one.label"
      unit="mm"
      :own="shop.printing[one.which]"
      :usual="null"
      :problem="problemAt(one.which)"
      @keep="(is) => setLabel(one.which, is)"
      @undo="forget(one.which)"
    />
    <p class="border-t border-line pt-2 text-[15px]">
      Test page:
      <template v-for="size in used" :key="size">
        <NuxtLink :to="`/print/test?on=${size}`">{{ size }}</NuxtLink>
        ·
      </template>
      <NuxtLink to="/print/test?on=label">label</NuxtLink>
    </p>
  </section>
</template>
