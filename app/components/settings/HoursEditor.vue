<script setup lang="ts">
import { WEEKDAYS, type Hours } from '~~/core/playbook/shop'

/** Opening hours, a line for each day. */
const hours = defineModel<Hours>({ required: true })
const USUAL = { from: '09:00', to: '17:30' }

function set(at: number, day: Hours[number]) {
  hours.value = hours.value.map((one, index) => (index === at ? day : one)) as Hours
}
</script>

<template>
  <ul>
    <li v-for="(day, at) in WEEKDAYS" :key="day" class="flex min-h-[38px] items-center gap-3 text-[15px]">
      <label class="flex w-[130px] items-center gap-2.5">
        <input
          type="checkbox"
          class="size-4 accent-[var(--russet)]"
          :checked="hours[at] !== null"
          @change="set(at, ($event.target as HTMLInputElement).checked ? USUAL : null)"
        />
        {{ day }}
      </label>
      <template v-if="hours[at]">
        <input
          type="time"
          class="figure min-h-[32px] border border-line bg-sheet px-2 text-[14px]"
          :aria-label="`${day}, opens`"
          :value="hours[at]!.from"
          @change="set(at, { ...hours[at]!, from: ($event.target as HTMLInputElement).value })"
        />
        <span class="text-soft">to</span>
        <input
          type="time"
          class="figure min-h-[32px] border border-line bg-sheet px-2 text-[14px]"
          :aria-label="`${day}, closes`"
          :value="hours[at]!.to"
          @change="set(at, { ...hours[at]!, to: ($event.target as HTMLInputElement).value })"
        />
      </template>
      <span v-else class="text-soft">closed</span>
    </li>
  </ul>
</template>
