<script setup lang="ts">
import { CHECK_MARKS, type CheckMark, type ClientCheck } from '~~/core/cases/shape/delivery'
import { CHECK_WORDS } from '~~/core/handover/words'
import type { BackGroup } from '~~/core/handover/back'

/** One group of what came back, looked at with the client, who says whether it is right. */
const props = withDefaults(
  defineProps<{
    group: BackGroup
    check?: ClientCheck | null
    thumb: (id: number) => string
    isBusy?: boolean
    canMark?: boolean
  }>(),
  { check: null, isBusy: false, canMark: true },
)
const emit = defineEmits<{ mark: [mark: CheckMark, note: string]; look: [id: number] }>()
const clock = useClockWords()
const note = ref(props.check?.note ?? '')
const pictures = computed(() => props.group.samples.filter(({ hasThumb }) => hasThumb))
const names = computed(() => props.group.samples.filter(({ hasThumb }) => !hasThumb).slice(0, 6))
</script>

<template>
  <li :id="`day-${group.day ?? 'none'}`" class="border-t border-line py-3" data-test="check-row">
    <div class="flex items-start gap-4">
      <p class="w-[124px] shrink-0 text-[18px] font-bold">
        {{ group.day === null ? 'no date' : clock.ofDay(group.day) }}
        <span class="block text-[15px] font-normal text-soft">
          {{ group.count }}{{ group.damaged > 0 ? `, ${group.damaged} damaged` : '' }}
        </span>
      </p>
      <div class="flex min-w-0 flex-1 flex-wrap gap-1.5">
        <button
          v-for="one in pictures"
          :key="one.id"
          type="button"
          :aria-label="`Look at ${one.name}`"
          @click="emit('look', one.id)"
        >
          <img :src="thumb(one.id)" alt="" class="h-[62px] w-[80px] bg-trough object-cover" loading="lazy" />
        </button>
        <p v-if="group.count > group.samples.length" class="self-center text-[15px] text-soft">
          and {{ group.count - group.samples.length }} more
        </p>
        <ul v-if="names.length > 0" class="text-[16px]">
          <li v-for="one in names" :key="one.id" class="truncate">{{ one.name }}</li>
        </ul>
      </div>
    </div>
    <div
      v-if="canMark"
      class="mt-2 flex flex-wrap gap-2 pl-[140px] max-md:pl-0"
      role="group"
      :aria-label="`Is ${group.day ?? 'this'} right?`"
    >
      <button
        v-for="mark in CHECK_MARKS"
        :key="mark"
        type="button"
        class="quiet-action !min-h-[44px] text-[16px]"
        :class="{ '!border-held !bg-held-ground font-bold': check?.mark === mark }"
        :aria-pressed="check?.mark === mark"
        :disabled="isBusy"
        @click="emit('mark', mark, mark === 'right' ? '' : note)"
      >
        {{ check?.mark === mark ? '✓ ' : '' }}{{ CHECK_WORDS[mark] }}
      </button>
      <input
        v-if="check && check.mark !== 'right'"
        v-model="note"
        class="field !min-h-[44px] min-w-[180px] flex-1"
        maxlength="400"
        aria-label="What is missing, or not sure"
        placeholder="what is missing?"
        @change="emit('mark', check.mark, note)"
      />
    </div>
  </li>
</template>
