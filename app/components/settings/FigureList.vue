<script setup lang="ts" generic="Which extends string">
import type { Amendment } from '~~/core/playbook/amending'

/** Figures of one kind below each other; an empty one is as the playbook has it. */
const props = defineProps<{
  title: string
  note: string
  lines: readonly { which: Which; label: string; unit: string; own: number | null; usual: number | null }[]
  amend: (which: Which, is: number | null) => Amendment
}>()
const { keep, forget, problemAt } = useSettingLines()
const id = useId()
const set = (which: Which, is: number | null) => void keep(which, props.amend(which, is))
</script>

<template>
  <section :aria-labelledby="id">
    <h2 :id="id" class="text-[19px]">{{ title }}</h2>
    <p class="mb-1 text-[14.5px] text-soft">{{ note }} An empty line is as the playbook has it, in grey.</p>
    <FigureLine
      v-for="{ which, label, unit, own, usual } in lines"
      :key="which"
      :label="label"
      :unit="unit"
      :own="own"
      :usual="usual"
      :problem="problemAt(which)"
      @keep="(is) => set(which, is)"
      @undo="forget(which)"
    />
  </section>
</template>
