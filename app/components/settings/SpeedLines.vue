<script setup lang="ts">
import { STORAGE_KINDS } from '~~/core/cases/shape/storage'
import type { Shop } from '~~/core/playbook/shop'
import { USUAL_SPEEDS } from '~~/core/playbook/speeds'

/** How fast the shop reads media: plans lay out the hours of imaging and scanning by it. */
defineProps<{ shop: Shop }>()
const { keep, forget, problemAt } = useSettingLines()
const WORDS: Record<(typeof STORAGE_KINDS)[number], string> = {
  card: 'Memory card in the reader',
  stick: 'Memory stick',
  'spinning-disk': 'Spinning disk',
  'solid-state': 'Solid-state disk',
  'phone-flash': 'Phone by cable',
}
const set = (which: (typeof STORAGE_KINDS)[number], is: number | null) => void keep(which, { what: 'speed', which, is })
</script>

<template>
  <section aria-labelledby="speeds">
    <h2 id="speeds" class="text-[19px]">How fast media are read</h2>
    <p class="mb-1 text-[14.5px] text-soft">
      At your bench, from end to end. Half the speed takes twice as long in every plan. An empty line is as usual, in
      grey.
    </p>
    <FigureLine
      v-for="kind in STORAGE_KINDS"
      :key="kind"
      :label="WORDS[kind]"
      unit="MB/s"
      :own="shop.speeds[kind] ?? null"
      :usual="USUAL_SPEEDS[kind]"
      :problem="problemAt(kind)"
      @keep="(is) => set(kind, is)"
      @undo="forget(kind)"
    />
  </section>
</template>
