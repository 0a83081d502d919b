<script setup lang="ts">
import type { AppRecord, RecordOf } from '~~/core/records/record'
import { recordTitle } from '~~/core/records/record'
import type { Find, FindPage } from '~~/core/bench/filter'

/** A record as it is read: a contact as a card, a message in its thread, a note as text, a row as a table. */
const props = defineProps<{ record: AppRecord; look: number }>()
const store = useBenchStore()
const clock = useClockWords()
const thread = ref<Find[]>([])

// A message says little alone: its thread is shown around it.
watch(
  () => props.record,
  async (record) => {
    thread.value = []
    if (record.kind !== 'message') return
    const query = new URLSearchParams({ type: 'messages', find: record.thread, limit: '200' })
    try {
      const page = await api<FindPage>('GET', store.path(`/looks/${props.look}?${query}`))
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
const list = useTemplateRef<HTMLElement>('list')
watch(messages, async () => {
  await nextTick()
  const own = list.value?.querySelector<HTMLElement>('[data-own]')
  if (own && list.value) list.value.scrollTop = own.offsetTop - list.value.clientHeight / 2
})
</script>

<template>
  <div class="text-[14.5px]" data-test="record">
    <div v-if="record.kind === 'contact'" class="border border-line bg-sheet p-3">
      <p class="font-head text-[17px] font-bold">{{ recordTitle(record) }}</p>
      <p v-if="record.organisation" class="text-soft">{{ record.organisation }}</p>
      <p v-for="phone in record.phones" :key="phone" class="figure">{{ phone }}</p>
      <p v-for="mail in record.mails" :key="mail" class="figure break-all">{{ mail }}</p>
      <p v-if="record.note" class="mt-1 whitespace-pre-wrap">{{ record.note }}</p>
    </div>
    <div v-else-if="record.kind === 'message'">
      <p class="section-name">With {{ record.thread }}</p>
      <ol
        ref="list"
        class="relative mt-1 max-h-[300px] space-y-1.5 overflow-y-auto"
        tabindex="0"
        aria-label="The thread"
      >
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
    <div v-else-if="record.kind === 'call'" class="border border-line bg-sheet p-3">
      <p class="font-head text-[17px] font-bold">{{ record.name || record.number }}</p>
      <p class="figure">{{ record.number }}</p>
      <p>
        {{ record.direction ?? 'call' }}, {{ record.at ? clock.momentOf(record.at) : 'no date' }}
        <template v-if="record.seconds !== null">, {{ Math.round(record.seconds / 60) }} min</template>
      </p>
    </div>
    <div v-else-if="record.kind === 'note'" class="border border-line bg-sheet p-3">
      <p class="font-head text-[17px] font-bold">{{ recordTitle(record) }}</p>
      <p class="mt-1 max-h-[260px] overflow-y-auto whitespace-pre-wrap break-words" tabindex="0">{{ record.text }}</p>
    </div>
    <div v-else-if="record.kind === 'bookmark'" class="border border-line bg-sheet p-3">
      <p class="font-bold">{{ recordTitle(record) }}</p>
      <p class="figure break-all text-[13px]">{{ record.url }}</p>
      <p class="text-soft">{{ record.folder.join(' / ') }}</p>
    </div>
    <div v-else-if="record.kind === 'event'" class="border border-line bg-sheet p-3">
      <p class="font-head text-[17px] font-bold">{{ recordTitle(record) }}</p>
      <p>{{ record.starts ? clock.momentOf(record.starts) : 'no date' }}</p>
      <p v-if="record.place" class="text-soft">{{ record.place }}</p>
      <p v-if="record.note" class="mt-1 whitespace-pre-wrap">{{ record.note }}</p>
    </div>
    <div v-else class="max-h-[300px] overflow-auto" tabindex="0">
      <table class="text-[13px]">
        <tbody>
          <tr v-for="(column, at) in record.columns" :key="column + at" class="border-t border-line">
            <th scope="row" class="pr-3 text-left font-normal text-soft">{{ column }}</th>
            <td class="break-all">{{ record.values[at] ?? '' }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>
