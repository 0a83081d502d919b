<script setup lang="ts">
import { WEEKDAYS, type Hours } from '~~/core/playbook/shop'

/** The opening hours of the shop: hands-on work is planned within them. */
const props = defineProps<{ hours: Hours }>()
const playbooks = usePlaybookStore()
const draft = ref<Hours>(props.hours)
watch(
  () => props.hours,
  (hours) => (draft.value = hours),
)
const problem = ref<string | null>(null)

async function keep(hours: Hours) {
  draft.value = hours
  problem.value = null
  try {
    await playbooks.amend({ what: 'hours', is: hours })
    tellDone('Saved.')
  } catch (error) {
    const [field] = error instanceof ApiFailure ? error.error.fields : []
    const day = WEEKDAYS[Number(field?.path.split('.')[1])]
    problem.value = field ? `${day ?? 'A day'} ${field.message}.` : failureWords(error)
  }
}
</script>

<template>
  <section aria-labelledby="hours">
    <h2 id="hours" class="mb-1 text-[19px]">Opening hours</h2>
    <p class="text-[14.5px] text-soft">Plans count hands-on work only while the shop is open.</p>
    <HoursEditor :model-value="draft" class="mt-1" @update:model-value="keep" />
    <p v-if="problem" role="alert" class="text-[14.5px] font-bold text-russet-ink">{{ problem }}</p>
  </section>
</template>
