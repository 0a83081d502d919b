<script setup lang="ts">
import type { AppRecord, RecordOf } from '~~/core/records/record'
import { recordLines, recordTitle } from '~~/core/records/record'
import { type Find, FindPage } from '~~/core/bench/filter'

/** A record as people read it: a message in its thread, a plain row as a table, anything else as a card. */
const props = defineProps<{ record: AppRecord; listing: number }>()
const store = useBenchStore()
const clock = useClockWords()
const thread = ref<Find[]>([])

// A single message says little, so its thread is shown around it.
watch(
  () => props.record,
  async (record) => {
    thread.value = []
    if (record.kind !== 'message') return
    const query = new URLSearchParams({ type: 'messages', find: record.thread, limit: '200' })
    try {
      const page = await api(FindPage, 'GET', store.path(`/listings/${props.listing}?${query}`))
      thread.value = page.finds
        .filter((one) => one.record?.kind === 'message' && one.record.thread === record.thread)
        .reverse()
    } catch (error) {
      tellFailure(error)
    }
  },
  { immediate: true },
)
const messages = computed(() =>
  thread.value.map((find) => ({
    key: find.find,
    record: find.record as RecordOf<'message'>,
    isDeleted: find.presence !== 'present',
    isThis: JSON.stringify(find.record) === JSON.stringify(props.record),
  })),
)
const LOOKS = {
  text: '',
  figure: 'figure break-all',
  soft: 'text-soft',
  long: 'mt-1 max-h-[260px] overflow-y-auto whitespace-pre-wrap break-words',
}
const list = useTemplateRef<HTMLElement>('list')
watch(messages, async () => {
  await nextTick()
  const own = list.value?.querySelector<HTMLElement>('[data-own]')
  if (own && list.value) list.value.scrollTop = own.offsetTop - list.value.clientHeight / 2
})
</script>

<template>
  <div class="text-[14.5px]" data-test="record">
    <div v-if="record.kind === 'message'">
      <p class="section-name">With {{ record.thread }}</p>
      <ol ref="list" class="relative mt-1 max-h-[300px] space-y-1.5 overflow-y-auto" tabindex="0" aria-label="Thread">
        <li
          v-for="one in messages"
          :key="one.key"
          :data-own="one.isThis ? '' : undefined"
          class="max-w-[88%] border px-2.5 py-1.5"
          :class="[one.record.isMine ? 'ml-auto bg-chosen' : 'bg-sheet', one.isThis ? 'border-russet' : 'border-line']"
        >
          <span class="whitespace-pre-wrap break-words">{{ one.record.text }}</span>
          <span v-for="name in one.record.attachments" :key="name" class="block text-[13px] text-soft">
            with {{ name }}
          </span>
          <span class="block text-[12px] text-soft">
            {{ one.record.at ? clock.momentOf(one.record.at) : 'no date' }}{{ one.isDeleted ? ' · deleted' : '' }}
          </span>
        </li>
      </ol>
    </div>
    <div v-else-if="record.kind === 'row'" class="max-h-[300px] overflow-auto" tabindex="0">
      <table class="text-[13px]">
        <tbody>
          <tr v-for="(column, at) in record.columns" :key="column + at" class="border-t border-line">
            <th scope="row" class="pr-3 text-left font-normal text-soft">{{ column }}</th>
            <td class="break-all">{{ record.values[at] ?? '' }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <div v-else class="border border-line bg-sheet p-3">
      <p class="font-head text-[17px] font-bold break-words">{{ recordTitle(record) }}</p>
      <template v-for="(line, at) in recordLines(record)" :key="at">
        <p v-if="line.as === 'moment'">{{ line.at ? clock.momentOf(line.at) : 'no date' }}</p>
        <p v-else :class="LOOKS[line.as]" :tabindex="line.as === 'long' ? 0 : undefined">{{ line.text }}</p>
      </template>
    </div>
  </div>
</template>
