<script setup lang="ts">
import { STORAGE_KINDS } from '~~/core/cases/shape/storage'
import { LANGUAGES } from '~~/core/local/language'
import { editableNumber, readNumber } from '~~/core/local/numbers'
import { PRICE_NAMES, PRICE_WORDS, priceOf } from '~~/core/playbook/prices'
import { USUAL_SPEEDS } from '~~/core/playbook/speeds'
import type { Shop } from '~~/core/playbook/shop'
import type { ShopPapers } from '~~/core/playbook/shop-papers'
import { termsWords } from '~~/core/handover/sheet-parts'

/** What the shop is called, what stands on its sheets, and the periods that it promises. */
const playbooks = usePlaybookStore()
const trouble = ref<string | null>(null)
async function load() {
  trouble.value = null
  try {
    await playbooks.need()
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
await load()
const shop = computed(() => playbooks.playbook?.shop ?? null)
const { keep, problemAt } = useSettingLines()

type Setting = 'name' | 'codePrefix' | 'zone' | 'currency'
const SETTINGS: readonly { which: Setting; label: string; hint: string }[] = [
  { which: 'name', label: 'Name', hint: 'as it stands on sheets and on the screen for two' },
  { which: 'zone', label: 'Time zone', hint: 'such as Europe/London: where a day begins' },
  { which: 'currency', label: 'Currency', hint: 'three letters, such as GBP' },
  { which: 'codePrefix', label: 'Letters of case codes', hint: 'one to four capital letters; for new cases' },
]
type Paper = keyof ShopPapers
const TEXTS: readonly { which: Paper; label: string; hint?: string; rows?: number }[] = [
  { which: 'address', label: 'Address', rows: 3 },
  { which: 'phone', label: 'Phone' },
  { which: 'mail', label: 'Mail' },
  { which: 'taxName', label: 'Name of the tax', hint: 'such as VAT; empty where there is none' },
  { which: 'taxNumber', label: 'Tax number' },
]
const NUMBERS: readonly { which: Paper; label: string; hint: string }[] = [
  { which: 'taxPercent', label: 'Tax within prices, percent', hint: 'every price holds it; receipts show it' },
  {
    which: 'promiseDays',
    label: 'Promise, days',
    hint: 'the same fault is looked at again without charge; 0 for no promise',
  },
  { which: 'uncollectedDays', label: 'Not collected after, days', hint: 'from the day that a case is ready' },
  {
    which: 'wipeDays',
    label: 'Kept after the return, days',
    hint: 'what came back, and everything found; then it is wiped automatically',
  },
  {
    which: 'personDays',
    label: 'Name kept, days',
    hint: 'name, contact, signatures and receipts, counted from the return; then they are wiped automatically',
  },
  {
    which: 'backupDays',
    label: 'Backups kept, days',
    hint: 'how long you keep backups of the data folder: until then they hold what was wiped here',
  },
]

const keepSetting = (which: Setting, is: string) => void keep(which, { what: 'setting', which, is: is.trim() })
const keepText = (which: Paper, is: string) => void keep(which, { what: 'papers', which, is })
const keepNumber = (which: Paper, is: string) => void keep(which, { what: 'papers', which, is: readNumber(is) })
const keepDays = (said: string) =>
  void keep('reminderDays', {
    what: 'papers',
    which: 'reminderDays',
    is: said
      .split(/[\s,;]+/)
      .filter(Boolean)
      .map(readNumber),
  })
/** Every page writes dates and numbers, so all of it is read again. */
async function speakIn(is: string) {
  if (await keep('language', { what: 'setting', which: 'language', is })) reloadNuxtApp({ path: '/settings' })
}
const names = new Intl.DisplayNames('en', { type: 'language' })
const LANGUAGE_CHOICES = LANGUAGES.map((value) => ({ value, words: names.of(value) ?? value })).sort((one, other) =>
  one.words.localeCompare(other.words, 'en'),
)
const prices = computed(() => {
  const { playbook } = playbooks
  if (!playbook) return []
  const { currency, prices: own } = playbook.shop
  return PRICE_NAMES.map((which) => ({
    which,
    label: PRICE_WORDS[which],
    unit: currency,
    own: own[which] ?? null,
    usual: priceOf({ ...playbook, shop: { prices: {} } }, which),
  }))
})
const SPEED_WORDS: Record<(typeof STORAGE_KINDS)[number], string> = {
  card: 'Memory card in the reader',
  stick: 'Memory stick',
  'spinning-disk': 'Spinning disk',
  'solid-state': 'Solid-state disk',
  'phone-flash': 'Phone by cable',
}
const speeds = computed(() =>
  STORAGE_KINDS.map((which) => ({
    which,
    label: SPEED_WORDS[which],
    unit: 'MB/s',
    own: shop.value?.speeds[which] ?? null,
    usual: USUAL_SPEEDS[which],
  })),
)
const textOf = (of: Shop, which: Paper) => {
  const is = of.papers[which]
  return typeof is === 'number' ? editableNumber(is) : String(is)
}
useHead({ title: 'Settings' })
</script>

<template>
  <div v-if="trouble" class="p-10"><ErrorNote :words="trouble" @again="load" /></div>
  <div v-else-if="shop" class="mx-auto grid max-w-[1280px] gap-x-14 gap-y-8 px-6 py-6 desk:grid-cols-2">
    <div>
      <h1 class="text-[26px]">Settings</h1>
      <p class="text-soft">Each line is saved when you leave it.</p>
      <section aria-labelledby="shop" class="mt-4">
        <h2 id="shop" class="mb-1 text-[19px]">The shop</h2>
        <SettingLine
          v-for="one in SETTINGS"
          :key="one.which"
          :label="one.label"
          :hint="one.hint"
          :value="shop[one.which]"
          :problem="problemAt(one.which)"
          @keep="(is) => keepSetting(one.which, is)"
        />
        <SettingLine
          label="Dates and numbers"
          hint="as this language writes them; dates that you type are read alike"
          :value="shop.language"
          :choices="LANGUAGE_CHOICES"
          :problem="problemAt('language')"
          @keep="speakIn"
        />
        <SettingLine
          v-for="one in TEXTS"
          :key="one.which"
          :label="one.label"
          :hint="one.hint"
          :rows="one.rows"
          :value="textOf(shop, one.which)"
          :problem="problemAt(one.which)"
          @keep="(is) => keepText(one.which, is)"
        />
      </section>
      <ShelfLines class="mt-6" />
      <FolderList class="mt-6" />
      <AllowedPaths class="mt-5" />
      <PrintLines :shop="shop" class="mt-6" />
      <MachineLines class="mt-6" />
    </div>
    <div>
      <HoursLine :hours="shop.hours" class="mb-6" />
      <FigureList
        class="mb-6"
        title="Price list"
        note="Tax included. Quotes and charges begin with it, and plans weigh it."
        :lines="prices"
        :amend="(which, is) => ({ what: 'price', which, is })"
      />
      <FigureList
        class="mb-6"
        title="How fast media are read"
        note="At your bench, from end to end. Half the speed takes twice as long in every plan."
        :lines="speeds"
        :amend="(which, is) => ({ what: 'speed', which, is })"
      />
      <section aria-labelledby="periods">
        <h2 id="periods" class="mb-1 text-[19px]">Tax and periods</h2>
        <SettingLine
          v-for="one in NUMBERS"
          :key="one.which"
          :label="one.label"
          :hint="one.hint"
          :value="textOf(shop, one.which)"
          :problem="problemAt(one.which)"
          @keep="(is) => keepNumber(one.which, is)"
        />
        <SettingLine
          label="Reminders, days"
          hint="after a case is ready, such as 7, 21, 45"
          :value="shop.papers.reminderDays.join(', ')"
          :problem="problemAt('reminderDays')"
          @keep="keepDays"
        />
      </section>
      <section aria-labelledby="terms" class="mt-6">
        <h2 id="terms" class="mb-1 text-[19px]">Terms on the receipt</h2>
        <SettingLine
          label="Your own terms"
          hint="one a line, below those that follow from the periods"
          :rows="4"
          :value="shop.papers.terms"
          :problem="problemAt('terms')"
          @keep="(is) => keepText('terms', is)"
        />
        <ul
          class="mt-2 list-disc border-t border-line pl-5 pt-2 text-[14.5px] text-soft"
          aria-label="All terms as they are printed"
        >
          <li v-for="(line, at) in termsWords(shop)" :key="at">{{ line }}</li>
        </ul>
      </section>
    </div>
  </div>
</template>
