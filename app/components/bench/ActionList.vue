<script setup lang="ts">
import type { ActionName } from '~~/core/bench/action'
import type { LinkState } from '~~/core/bench/state'

/** The steps that change something on the thing at hand; each is shown before it is done. */
const props = defineProps<{ link: LinkState }>()
defineEmits<{ compare: [action: ActionName] }>()
const session = useSessionStore()

/** Actions that need a source start where it is chosen: at a backup, at an earlier day. */
const actions = computed(() => props.link.actions.filter((one) => !one.wantsFrom || one.action === 'merge-in'))
const tasks = computed(() => props.link.tasks.toReversed().slice(0, 4))
const clock = useClockWords()
</script>

<template>
  <section v-if="actions.length > 0 || tasks.length > 0" aria-labelledby="steps" data-test="actions">
    <h2 id="steps" class="text-[18px]">Actions</h2>
    <ul v-if="tasks.length > 0" class="mt-1 text-[14px]" aria-live="polite">
      <li
        v-for="task in tasks"
        :key="task.id"
        class="flex flex-wrap gap-x-3 border-t border-line py-1"
        data-test="task"
      >
        <strong>{{ task.title }}</strong>
        <template v-if="task.state === 'running'">
          <span class="figure text-[13px]">until {{ clock.timeOf(task.ends) }}</span>
          <progress v-if="task.total > 1" :value="task.done" :max="task.total" class="self-center" />
        </template>
        <span :class="task.state === 'failed' ? 'text-russet-ink' : 'text-soft'">{{ task.says }}</span>
      </li>
    </ul>
    <ul v-if="session.may('work')" class="mt-1">
      <li v-for="one in actions" :key="one.action" class="flex items-start gap-3 border-t border-line py-1.5">
        <div class="flex-1 text-[14.5px]">
          {{ one.title }}
          <span class="block text-[13px] text-soft">{{ one.says }}</span>
        </div>
        <button
          type="button"
          class="quiet-action"
          :aria-label="`Review: ${one.title}`"
          @click="$emit('compare', one.action)"
        >
          {{ one.effects.erases ? '▲ Review …' : 'Review …' }}
        </button>
      </li>
    </ul>
  </section>
</template>
