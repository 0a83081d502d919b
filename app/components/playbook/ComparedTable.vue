<script setup lang="ts">
import { FAMILY_WORDS } from '~~/core/playbook/family-words'
import type { ComparedRoute } from '~~/core/ranking/explain/compared'
import { closingWords } from '~~/core/ranking/explain/closing-words'

/** Kinds of routes as a table: those that can bring something, family by family, then the rest with the reason. */
const props = defineProps<{ routes: readonly ComparedRoute[] }>()
const context = useAnswerContext()
const moneyOf = useMoney()

const open = computed(() => props.routes.filter(({ closedBy }) => closedBy === null))
const closed = computed(() => props.routes.filter(({ closedBy }) => closedBy !== null))
/** The family is named where it begins. */
const startsFamily = (index: number) => open.value[index - 1]?.family !== open.value[index]?.family
const until = (route: ComparedRoute) => closingWords(route.closes, context.value.now, context.value.zone)
const costs = ({ money: { look, take } }: ComparedRoute) =>
  look + take === 0 ? 'nothing' : take === 0 ? moneyOf(look) : `${moneyOf(look)} to look, ${moneyOf(take)} to take`
const runsWords = (runs: number) => (runs === 0 ? 'no run here yet' : runs === 1 ? '1 run here' : `${runs} runs here`)
</script>

<template>
  <div>
    <div class="overflow-x-auto print:overflow-visible" role="region" aria-label="Routes compared" tabindex="0">
      <table class="compared w-full text-left text-[14px]" data-test="compared">
        <thead>
          <tr>
            <th scope="col">Route</th>
            <th scope="col">Needs</th>
            <th scope="col">Open</th>
            <th scope="col">Works, if all is there</th>
            <th scope="col">Time and money</th>
            <th scope="col">Puts at risk</th>
          </tr>
        </thead>
        <tbody v-for="(route, index) in open" :key="route.kind">
          <tr v-if="startsFamily(index)">
            <th scope="rowgroup" colspan="6" class="family">{{ FAMILY_WORDS[route.family] }}</th>
          </tr>
          <tr :data-route="route.kind">
            <th scope="row">
              {{ route.title }}
              <span class="block font-normal text-soft">{{ route.says }}</span>
            </th>
            <td>
              <ul v-if="route.needs.length > 0">
                <li v-for="need in route.needs" :key="need">{{ need }}</li>
              </ul>
              <span v-else>nothing</span>
            </td>
            <td>
              <span class="figure block" :class="until(route).urgency === 'soon' ? 'font-bold text-russet-ink' : ''">
                {{ until(route).words }}
              </span>
              <span class="text-soft">{{ route.open }}</span>
            </td>
            <td>
              <span class="figure block font-bold">{{ percent(route.chance[1]) }}</span>
              <span class="figure block text-soft">
                {{ percent(route.chance[0]) }} to {{ percent(route.chance[2]) }}
              </span>
              <span class="block">brings about {{ percent(route.share[1]) }}</span>
              <span class="text-soft">{{ runsWords(route.runs) }}</span>
            </td>
            <td>
              <span class="figure block">{{ minutesWords(route.handsOn) }} hands-on</span>
              <span v-if="route.waiting > 0" class="figure block text-soft">
                + {{ minutesWords(route.waiting) }} waiting
              </span>
              <span class="block">costs {{ costs(route) }}</span>
            </td>
            <td>
              <p v-for="risk in route.risks" :key="risk" class="risk">▲ {{ risk }}</p>
              <span v-if="route.risks.length === 0" class="text-held">changes nothing</span>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <section v-if="closed.length > 0" class="mt-6" aria-labelledby="compared-closed">
      <h2 id="compared-closed" class="text-[18px]">Not after such a loss</h2>
      <ul class="mt-1 text-[14px]">
        <li v-for="route in closed" :key="route.kind" class="py-0.5">
          <b>{{ route.title }}</b>
          &ensp;
          <span class="text-soft">{{ route.closedBy }}</span>
        </li>
      </ul>
    </section>
  </div>
</template>

<style scoped>
.compared {
  border-collapse: collapse;
}
.compared th,
.compared td {
  padding: 7px 16px 7px 0;
  vertical-align: top;
  border-bottom: 1px solid var(--line);
}
.compared thead th {
  font-weight: 650;
  color: var(--soft);
  white-space: nowrap;
}
.compared tbody th {
  min-width: 220px;
  max-width: 320px;
}
.compared td:nth-of-type(1) {
  min-width: 190px;
}
.compared td:nth-of-type(2) {
  min-width: 170px;
  max-width: 230px;
}
.compared td:nth-of-type(5) {
  max-width: 240px;
}
.compared .family {
  padding-top: 16px;
  font-family: var(--font-head);
  font-size: 15px;
  color: var(--russet-ink);
  border-bottom-color: var(--ink);
}
.risk {
  color: var(--russet-ink);
}
@media print {
  .compared {
    font-size: 9pt;
  }
  .compared tr {
    break-inside: avoid;
  }
}
</style>
