<script setup lang="ts">
import { CaseListAnswer, guessColumns, LIST_COLUMNS, MAX_LINES } from '~~/core/exchange/case-list'

/** Imports a list of cases: columns are matched, a dry run shows every fault, and only then is anything written. */
const input = useTemplateRef<HTMLInputElement>('input')
const list = shallowRef<ReadList | null>(null)
const columns = ref<(string | null)[]>([])
const checked = shallowRef<CaseListAnswer | null>(null)
const trouble = ref<string | null>(null)
const isBusy = ref(false)
const name = ref('')

async function chosen() {
  const file = input.value?.files?.[0]
  if (!file) return
  checked.value = null
  trouble.value = null
  list.value = null
  try {
    const read = readList(new Uint8Array(await file.arrayBuffer()))
    if (read.lines.length > MAX_LINES) throw new Error(`The list has more than ${MAX_LINES} lines.`)
    name.value = file.name
    columns.value = guessColumns(read.headers)
    list.value = read
  } catch (error) {
    trouble.value = (error as Error).message
  } finally {
    if (input.value) input.value.value = ''
  }
}
function match(at: number, id: string) {
  checked.value = null
  columns.value = columns.value.map((one, index) => (index === at ? id || null : one === id ? null : one))
}
async function send(writes: boolean, leavesOutFaulty = false) {
  if (!list.value) return
  isBusy.value = true
  trouble.value = null
  try {
    const { lines } = list.value
    const body = { columns: columns.value, lines, writes, leavesOutFaulty }
    const answer = await api(CaseListAnswer, 'POST', '/api/cases/import/list', body)
    if (writes) {
      tellDone(`${answer.codes.length} cases were imported, ${answer.codes[0]} to ${answer.codes.at(-1)}.`)
      await navigateTo('/')
    } else checked.value = answer
  } catch (error) {
    trouble.value = failureWords(error)
  } finally {
    isBusy.value = false
  }
}
const faulty = computed(() => checked.value?.lines.filter(({ faults }) => faults.length > 0) ?? [])
const good = computed(() => (checked.value?.lines.length ?? 0) - faulty.value.length)
const cases = (count: number) => (count === 1 ? 'one case' : `${count} cases`)
</script>

<template>
  <section aria-labelledby="list" data-test="bring-list">
    <h2 id="list" class="text-[19px]">A list of cases</h2>
    <p class="mb-2 text-soft">
      CSV out of a sheet or another program, its columns named in the first line. Nothing is written before you have
      seen what becomes of each line.
    </p>
    <button type="button" class="quiet-action" @click="input?.click()">Choose a list …</button>
    <input
      ref="input"
      type="file"
      accept=".csv,.tsv,.txt,text/csv"
      class="hidden"
      tabindex="-1"
      aria-hidden="true"
      data-test="case-list"
      @change="chosen"
    />
    <p v-if="trouble" role="alert" class="mt-3 max-w-[820px] border-l-4 border-russet bg-sheet p-3">{{ trouble }}</p>
    <template v-if="list">
      <h3 class="mt-4 text-[16px]">{{ name }}, {{ list.lines.length }} lines: what is in each column?</h3>
      <div class="overflow-x-auto" tabindex="0" role="region" aria-label="Columns of the list">
        <table class="mt-1 border-collapse text-[14px]">
          <thead>
            <tr>
              <th
                v-for="(header, at) in list.headers"
                :key="at"
                scope="col"
                class="border-b border-line p-1.5 text-left"
              >
                {{ header || `column ${at + 1}` }}
              </th>
            </tr>
          </thead>
          <tbody>
            <tr>
              <td v-for="(header, at) in list.headers" :key="at" class="p-1.5">
                <select
                  class="field !w-[150px]"
                  :value="columns[at] ?? ''"
                  :aria-label="`What is in “${header || `column ${at + 1}`}”`"
                  @change="match(at, ($event.target as HTMLSelectElement).value)"
                >
                  <option value="">nothing of a case</option>
                  <option v-for="one in LIST_COLUMNS" :key="one.id" :value="one.id">{{ one.label }}</option>
                </select>
              </td>
            </tr>
            <tr v-for="(line, row) in list.lines.slice(0, 3)" :key="row" class="border-t border-line text-soft">
              <td v-for="(_, at) in list.headers" :key="at" class="max-w-[190px] truncate p-1.5">{{ line[at] }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <button
        v-if="!checked"
        type="button"
        class="main-action mt-3"
        :disabled="isBusy || columns.every((one) => one === null)"
        data-test="check-list"
        @click="send(false)"
      >
        Check every line
      </button>
      <div v-else class="mt-3" data-test="checked-list">
        <p class="font-bold">
          {{ good === 0 ? 'No line can be imported.' : `Can be imported: ${cases(good)}.` }}
          {{
            faulty.length === 0
              ? 'No line has a fault.'
              : `${faulty.length} of ${checked.lines.length} lines have faults:`
          }}
        </p>
        <ul
          v-if="faulty.length > 0"
          class="mt-1 max-h-[320px] max-w-[980px] overflow-y-auto text-[14px]"
          tabindex="0"
          aria-label="Faults"
        >
          <li v-for="line in faulty" :key="line.line" class="border-t border-line py-1">
            <span class="figure mr-2">line {{ line.line + 1 }}</span>
            <span class="text-soft">{{ line.says }}</span>
            <p v-for="fault in line.faults" :key="fault.column + fault.message" class="text-russet-ink">
              {{ fault.column }}: {{ fault.message }}
            </p>
          </li>
        </ul>
        <button
          v-if="good > 0"
          type="button"
          class="main-action mt-3"
          :disabled="isBusy"
          data-test="write-list"
          @click="send(true, faulty.length > 0)"
        >
          {{ faulty.length === 0 ? `Import ${cases(good)}` : `Import ${cases(good)}, leave out ${faulty.length}` }}
        </button>
      </div>
    </template>
  </section>
</template>
