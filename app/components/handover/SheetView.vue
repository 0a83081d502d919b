<script setup lang="ts">
import { toString as qrSvg } from 'qrcode'
import type { SheetDocument } from '~~/core/handover/document'

/** A sheet as it is read on the screen and printed by the browser. */
const props = defineProps<{ sheet: SheetDocument; pictures: (attachment: number) => string; isLarge?: boolean }>()
const codes = ref(new Map<string, string>())
onMounted(async () => {
  for (const block of props.sheet.blocks)
    if (block.kind === 'code') {
      const svg = await qrSvg(block.text, { type: 'svg', margin: 0 })
      codes.value = new Map(codes.value).set(block.text, `data:image/svg+xml,${encodeURIComponent(svg)}`)
    }
})
</script>

<template>
  <article class="sheet" :class="{ 'is-large': isLarge }" :aria-label="sheet.title" data-test="sheet">
    <header class="flex justify-between gap-8">
      <div>
        <p class="font-head text-[17px] font-bold">{{ sheet.shop.name }}</p>
        <p v-for="line in sheet.shop.lines" :key="line">{{ line }}</p>
      </div>
      <div class="text-right">
        <p v-for="line in sheet.client" :key="line">{{ line }}</p>
      </div>
    </header>
    <h1 class="mt-7 text-[26px]">{{ sheet.title }}</h1>
    <p class="quiet">{{ sheet.number }} · case {{ sheet.code }} · {{ sheet.when }}</p>
    <template v-for="(block, at) in sheet.blocks" :key="at">
      <h2 v-if="block.kind === 'heading'" class="mt-5 text-[17px]">{{ block.text }}</h2>
      <p v-else-if="block.kind === 'text'" class="mt-1.5" :class="{ 'font-bold': block.isStrong }">{{ block.text }}</p>
      <ul v-else-if="block.kind === 'list'" class="mt-1.5 list-disc space-y-0.5 pl-5">
        <li v-for="(item, index) in block.items" :key="index">{{ item }}</li>
      </ul>
      <dl v-else-if="block.kind === 'facts'" class="mt-1.5">
        <div v-for="[name, value] in block.rows" :key="name" class="facts-row">
          <dt>{{ name }}</dt>
          <dd>{{ value }}</dd>
        </div>
      </dl>
      <table
        v-else-if="block.kind === 'table'"
        class="mt-2 w-full"
        :class="{ 'is-words': block.figuresFrom >= block.head.length && block.head.length > 3 }"
      >
        <thead>
          <tr>
            <th
              v-for="(name, index) in block.head"
              :key="name"
              scope="col"
              :class="{ figures: index >= block.figuresFrom }"
            >
              {{ name }}
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, index) in block.rows" :key="index">
            <td v-for="(cell, column) in row" :key="column" :class="{ figures: column >= block.figuresFrom }">
              {{ cell }}
            </td>
          </tr>
        </tbody>
      </table>
      <p v-else-if="block.kind === 'code'" class="mt-2 flex items-center gap-5">
        <img v-if="codes.has(block.text)" :src="codes.get(block.text)" alt="" class="h-[92px] w-[92px]" />
        <span class="figure text-[26px] font-bold">{{ block.words }}</span>
      </p>
      <div v-else-if="block.kind === 'sign'" class="sign">
        <img v-if="block.signature !== null" :src="pictures(block.signature)" alt="signature" class="h-[68px]" />
        <p>{{ block.name ? `${block.words}: ${block.name}` : block.words }}</p>
      </div>
    </template>
    <footer class="quiet mt-8 border-t pt-1.5 text-[11.5px]">
      {{ sheet.number }} · {{ sheet.when }} · head of the history {{ sheet.head }}
    </footer>
  </article>
</template>

<style scoped>
.sheet {
  max-width: 780px;
  padding: 40px 48px;
  background: #fff;
  color: #1d1613;
  font-size: 14px;
  line-height: 1.4;
}
/* Read by two at arm's length. */
.is-large {
  max-width: none;
  font-size: 17px;
}
/* Columns of words share the width evenly. */
.is-words {
  table-layout: fixed;
}
.quiet,
dt,
th {
  color: #5d5048;
}
.facts-row {
  display: grid;
  grid-template-columns: 170px minmax(0, 1fr);
  gap: 14px;
  padding: 2px 0;
  border-top: 1px solid #d9cbb7;
}
dd {
  overflow-wrap: anywhere;
}
th {
  font-weight: 400;
  font-size: 12.5px;
  text-align: left;
  vertical-align: bottom;
}
th,
td {
  padding: 3px 10px 3px 0;
  border-bottom: 1px solid #d9cbb7;
}
td {
  vertical-align: top;
  overflow-wrap: anywhere;
}
.figures {
  text-align: right;
  font-variant-numeric: tabular-nums;
}
.sign {
  margin-top: 26px;
  padding-top: 46px;
  break-inside: avoid;
}
.sign:has(img) {
  padding-top: 0;
}
.sign p {
  width: 340px;
  max-width: 100%;
  border-top: 1px solid #1d1613;
  padding-top: 3px;
  font-size: 12.5px;
}
tr,
.facts-row {
  break-inside: avoid;
}
h2 {
  break-after: avoid;
}
@media print {
  .sheet {
    max-width: none;
    padding: 0;
  }
}
</style>
