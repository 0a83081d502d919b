<script setup lang="ts">
import { accountOf, type Charge } from '~~/core/cases/shape/money'
import { priceLimit } from '~~/core/handover/apply'
import { PAYMENT_WAY_WORDS } from '~~/core/handover/words'
import { priceWords } from '~~/core/handover/sheet-parts'

/** What was quoted, what is due, what was paid. */
defineProps<{ isNext: boolean }>()
const store = useOpenCaseStore()
const session = useSessionStore()
const shop = useHandoverStore()
const money = computed(() => store.asItIs.money)
const account = computed(() => accountOf(money.value))
const limit = computed(() => priceLimit(store.asItIs))
const price = (amount: number) => priceWords(amount, session.shop.currency)
const doing = ref<'quote' | 'charge' | 'pay' | null>(null)
const cancelling = ref<Charge | null>(null)
const reason = ref('')
async function cancel() {
  if (await shop.act({ do: 'cancel-charge', charge: cancelling.value!.id, reason: reason.value }))
    cancelling.value = null
}
</script>

<template>
  <section aria-labelledby="money" data-test="money">
    <h2 id="money" class="text-[19px]">Money</h2>
    <p class="text-[14.5px]">
      <template v-if="money.quote">
        Quoted {{ price(money.quote.low) }} to {{ price(money.quote.high) }}; {{ price(money.quote.nothingBack) }} where
        nothing comes back.
      </template>
      <span v-else class="text-soft">Nothing was quoted yet.</span>
      <template v-if="limit !== null">
        Agreed up to
        <strong>{{ `${price(limit)}.` }}</strong>
      </template>
    </p>
    <table v-if="money.charges.length > 0 || money.payments.length > 0" class="mt-2 w-full text-[14.5px]">
      <caption class="sr-only">Charges and payments</caption>
      <tbody>
        <tr
          v-for="charge in money.charges"
          :key="charge.id"
          class="border-t border-line"
          :class="{ 'text-soft line-through': charge.cancelled }"
        >
          <th scope="row" class="py-1 text-left font-normal">{{ charge.words }}</th>
          <td class="figure text-right">{{ price(charge.amount) }}</td>
          <td class="w-[60px] text-right">
            <button
              v-if="!charge.cancelled && session.may('work')"
              type="button"
              class="min-h-[24px] text-[13px] text-soft underline decoration-dotted"
              :aria-label="`Cancel ${charge.words}`"
              @click="((cancelling = charge), (reason = ''))"
            >
              cancel
            </button>
          </td>
        </tr>
        <tr class="border-t border-soft font-bold">
          <th scope="row" class="py-1 text-left">Due</th>
          <td class="figure text-right">{{ price(account.total) }}</td>
          <td />
        </tr>
        <tr v-for="payment in money.payments" :key="payment.receipt" class="border-t border-line">
          <th scope="row" class="py-1 text-left font-normal">
            {{ payment.kind }}, {{ PAYMENT_WAY_WORDS[payment.way] }}
            <span class="figure text-[13px] text-soft">{{ payment.receipt }}</span>
          </th>
          <td class="figure text-right">{{ price(payment.kind === 'refund' ? payment.amount : -payment.amount) }}</td>
          <td />
        </tr>
        <tr class="border-t border-soft font-bold" :class="account.open > 0 ? 'text-russet-ink' : 'text-held'">
          <th scope="row" class="py-1 text-left">
            {{ account.open > 0 ? 'Open' : account.open < 0 ? 'Paid in advance' : '✓ Paid' }}
          </th>
          <td class="figure text-right" data-test="open-amount">{{ price(Math.abs(account.open)) }}</td>
          <td />
        </tr>
      </tbody>
    </table>
    <div class="mt-2 flex flex-wrap gap-2">
      <button type="button" class="quiet-action" data-test="quote" @click="doing = 'quote'">Quote …</button>
      <button type="button" class="quiet-action" data-test="charge" @click="doing = 'charge'">Charge …</button>
      <button type="button" :class="isNext ? 'main-action' : 'quiet-action'" data-test="pay" @click="doing = 'pay'">
        Take payment …
      </button>
    </div>
    <QuoteDialog v-if="doing === 'quote'" @close="doing = null" />
    <ChargeDialog v-if="doing === 'charge'" @close="doing = null" />
    <PayDialog v-if="doing === 'pay'" :open="account.open" @close="doing = null" />
    <ShopDialog
      v-if="cancelling"
      :title="`Cancel: ${cancelling.words}`"
      verb="Cancel this charge"
      :is-ready="reason.trim() !== ''"
      :is-busy="shop.isBusy"
      @close="cancelling = null"
      @done="cancel"
    >
      <FormField v-model="reason" label="Why" />
    </ShopDialog>
  </section>
</template>
