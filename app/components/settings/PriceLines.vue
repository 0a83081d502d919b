<script setup lang="ts">
import type { Playbook } from '~~/core/playbook/playbook'
import { PRICE_NAMES, PRICE_WORDS, priceOf, type PriceName } from '~~/core/playbook/prices'

/** The price list: quotes and charges begin with it, and plans weigh what a laboratory and parts cost. */
const props = defineProps<{ playbook: Playbook }>()
const { keep, forget, problemAt } = useSettingLines()
const lines = computed(() =>
  PRICE_NAMES.map((name) => ({
    name,
    own: props.playbook.shop.prices[name] ?? null,
    usual: priceOf({ ...props.playbook, shop: { prices: {} } }, name),
  })),
)
const set = (name: PriceName, is: number | null) => void keep(name, { what: 'price', which: name, is })
</script>

<template>
  <section aria-labelledby="prices">
    <h2 id="prices" class="text-[19px]">Price list</h2>
    <p class="mb-1 text-[14.5px] text-soft">
      Tax included. Quotes and charges begin with it, and plans weigh it. An empty line is as the playbook has it, in
      grey.
    </p>
    <FigureLine
      v-for="one in lines"
      :key="one.name"
      :label="PRICE_WORDS[one.name]"
      :unit="playbook.shop.currency"
      :own="one.own"
      :usual="one.usual"
      :problem="problemAt(one.name)"
      @keep="(is) => set(one.name, is)"
      @undo="forget(one.name)"
    />
  </section>
</template>
