import { z } from 'zod'
import { faultsOf, type Fault } from '../cases/shape/faults'
import { STORAGE_KINDS } from '../cases/shape/storage'
import { KnownModel } from './models'
import type { Playbook } from './playbook'
import { PRICE_NAMES } from './prices'
import { PAPER_KINDS, Printing, SheetSize } from './printing'
import { Hours, Shop, Weights } from './shop'
import { ShopPapers } from './shop-papers'

/** What of a shop is set by itself. */
export const SHOP_SETTINGS = ['name', 'codePrefix', 'zone', 'currency', 'language'] as const

/** One change to a playbook. Changes are small, so that two people who change different things lose nothing. */
export const Amendment = z.discriminatedUnion('what', [
  z.object({ what: z.literal('weight'), which: Weights.keyof(), is: z.number('is not a number') }),
  z.object({
    what: z.literal('model'),
    /** the entry that it takes the place of; null for a new one */
    instead: z.string().max(80).nullable(),
    model: KnownModel,
  }),
  z.object({ what: z.literal('setting'), which: z.enum(SHOP_SETTINGS), is: z.string().max(200) }),
  z.object({ what: z.literal('papers'), which: ShopPapers.keyof(), is: z.unknown() }),
  /** a line of the price list, or a speed; null for what the playbook has */
  z.object({ what: z.literal('price'), which: z.enum(PRICE_NAMES), is: z.number('is not an amount').nullable() }),
  z.object({ what: z.literal('speed'), which: z.enum(STORAGE_KINDS), is: z.number('is not a number').nullable() }),
  z.object({ what: z.literal('sheet-size'), which: z.enum(PAPER_KINDS), is: SheetSize }),
  /** in mm */
  z.object({ what: z.literal('label'), which: z.enum(['labelWidth', 'labelHeight']), is: z.number('is not a number') }),
  /** the opening hours by day, Monday first */
  z.object({ what: z.literal('hours'), is: Hours }),
  /** the whole table of makers and models, as it comes from a list */
  z.object({ what: z.literal('models'), models: z.array(KnownModel).max(2000) }),
  z.object({ what: z.literal('forget-model'), make: z.string().max(80) }),
])
export type Amendment = z.infer<typeof Amendment>

export type Amended = { readonly ok: true; readonly playbook: Playbook } | { readonly ok: false; readonly fault: Fault }

/** The playbook with one change, or what is wrong with it; the given one is not changed. */
export function amended(playbook: Playbook, amendment: Amendment): Amended {
  if (amendment.what === 'weight') return withWeight(playbook, amendment)
  if (amendment.what === 'model') return withModel(playbook, amendment)
  if (amendment.what === 'setting') return withSetting(playbook, amendment)
  if (amendment.what === 'papers') return withPapers(playbook, amendment)
  if (amendment.what === 'price' || amendment.what === 'speed') return withFigure(playbook, amendment)
  if (amendment.what === 'sheet-size') return withSheetSize(playbook, amendment)
  if (amendment.what === 'label') return withLabel(playbook, amendment)
  if (amendment.what === 'hours') return withShop(playbook, { hours: amendment.is })
  if (amendment.what === 'models') return withModels(playbook, amendment.models)
  const models = playbook.shop.models.filter(({ make }) => !isSame(make, amendment.make))
  if (models.length === playbook.shop.models.length) return wrong('make', 'is no longer in the table')
  return withShop(playbook, { models })
}

function withWeight(playbook: Playbook, { which, is }: Extract<Amendment, { what: 'weight' }>): Amended {
  const read = Weights.safeParse({ ...playbook.shop.weights, [which]: is })
  if (!read.success) return wrong('is', faultsOf(read.error)[0]?.message ?? 'cannot be used')
  return withShop(playbook, { weights: read.data })
}

function withSetting(playbook: Playbook, { which, is }: Extract<Amendment, { what: 'setting' }>): Amended {
  const read = Shop.shape[which].safeParse(is)
  if (!read.success) return wrong('is', faultsOf(read.error)[0]?.message ?? 'cannot be used')
  return withShop(playbook, { [which]: read.data })
}

function withPapers(playbook: Playbook, { which, is }: Extract<Amendment, { what: 'papers' }>): Amended {
  const read = ShopPapers.safeParse({ ...playbook.shop.papers, [which]: is })
  if (!read.success) return wrong('is', faultsOf(read.error)[0]?.message ?? 'cannot be used')
  return withShop(playbook, { papers: read.data })
}

function withFigure(playbook: Playbook, { what, which, is }: Extract<Amendment, { what: 'price' | 'speed' }>): Amended {
  const list = what === 'price' ? 'prices' : 'speeds'
  const { [which]: _before, ...others }: Record<string, number> = playbook.shop[list]
  const read = Shop.shape[list].safeParse(is === null ? others : { ...others, [which]: is })
  if (!read.success) return wrong('is', faultsOf(read.error)[0]?.message ?? 'cannot be used')
  return withShop(playbook, { [list]: read.data })
}

function withSheetSize(playbook: Playbook, { which, is }: Extract<Amendment, { what: 'sheet-size' }>): Amended {
  const { printing } = playbook.shop
  return withShop(playbook, { printing: { ...printing, sheets: { ...printing.sheets, [which]: is } } })
}

function withLabel(playbook: Playbook, { which, is }: Extract<Amendment, { what: 'label' }>): Amended {
  const read = Printing.safeParse({ ...playbook.shop.printing, [which]: is })
  if (!read.success) return wrong('is', faultsOf(read.error)[0]?.message ?? 'cannot be used')
  return withShop(playbook, { printing: read.data })
}

function withModel(playbook: Playbook, { instead, model }: Extract<Amendment, { what: 'model' }>): Amended {
  const { models } = playbook.shop
  const others = instead === null ? models : models.filter(({ make }) => !isSame(make, instead))
  if (instead !== null && others.length === models.length) return wrong('instead', 'is no longer in the table')
  if (others.some(({ make }) => isSame(make, model.make))) return wrong('model.make', 'is already in the table')
  if (others.length >= MAX_MODELS) return wrong('model', `would be more than ${MAX_MODELS} entries`)
  const sorted = [...others, model].sort((one, other) => one.make.localeCompare(other.make, 'en'))
  return withShop(playbook, { models: sorted })
}

function withModels(playbook: Playbook, given: readonly KnownModel[]): Amended {
  const twice = given.find(({ make }, at) => given.findIndex((other) => isSame(other.make, make)) !== at)
  if (twice) return wrong('models', `name ${twice.make} twice`)
  return withShop(playbook, { models: given.toSorted((one, other) => one.make.localeCompare(other.make, 'en')) })
}

/** As many as the schema of the shop takes. */
const MAX_MODELS = 2000

const withShop = (playbook: Playbook, part: Partial<Playbook['shop']>): Amended => ({
  ok: true,
  playbook: { ...playbook, shop: { ...playbook.shop, ...part } },
})

const wrong = (path: string, message: string): Amended => ({ ok: false, fault: { path, message } })

const isSame = (one: string, other: string) => one.trim().toLowerCase() === other.trim().toLowerCase()
