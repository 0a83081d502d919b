import { describe, expect, it } from 'vitest'
import { Case } from '../../cases/shape/case'
import { defaultPlaybook } from '../../playbook/playbook'
import { fullPlanOf } from '../../ranking/explain/plan'
import { ago, caseWith, endedRun, NOW } from '../../testing/case-with'
import { applied } from '../apply'
import { avoidingWords } from '../avoiding'
import { SheetDocument, type SheetBlock } from '../document'
import type { SheetContext } from '../sheet-parts'
import { HandoverWrite, type HandoverInput } from '../writes'
import { openWays, optionsSheet, rangeWords } from './options'
import { paidSheet } from './paid'
import { receivedSheet } from './received'
import { reportSheet } from './report'
import { returnedSheet } from './returned'

const playbook = defaultPlaybook({ name: 'Lamp & Lock', zone: 'Europe/London' })
const shop = {
  ...playbook.shop,
  papers: {
    ...playbook.shop.papers,
    address: '3 Weir Row\nMillbeck',
    taxName: 'VAT',
    taxPercent: 20,
    terms: 'Ring twice.',
  },
}
const context: SheetContext = { shop, by: 'Bram', now: NOW, head: '12-0a1b2-c3d4e-5f607-18293' }
const lost = caseWith({
  'client.name': 'Maud Oxley',
  'client.phone': '07700 900 246',
  'authority.basis': 'own',
  'consent.lookThrough.answer': 'given',
  'devices.d1': { kind: 'phone', platform: 'closed-phone', make: 'Korvane 7', lock: 'unlocked', condition: 'working' },
  'wanted.w1': { type: 'photos', count: 300, made: ago(40, 10) },
  'wanted.w2': { type: 'notes', count: 4, mustHave: 'all' },
  'loss.how': 'deleted-in-bulk',
  'loss.when': ago(4, 3),
})

function after(ofCase: Case, ...writes: HandoverInput[]): Case {
  return writes.reduce((before, write) => {
    const at = new Date(NOW).toISOString()
    const done = applied(before, HandoverWrite.parse(write), {
      by: 'Bram',
      at,
      shop,
      codes: [],
      receipt: 'R-2026-0001',
    })
    if (!done.ok) throw new Error(done.why)
    return Case.parse(done.after)
  }, ofCase)
}

/** Everything that a sheet says, block by block. */
function words(sheet: SheetDocument): string {
  const of = (block: SheetBlock): string => {
    if (block.kind === 'facts') return block.rows.map((row) => row.join(': ')).join('\n')
    if (block.kind === 'list') return block.items.join('\n')
    if (block.kind === 'table') return [block.head, ...block.rows].map((row) => row.join(' | ')).join('\n')
    if (block.kind === 'sign') return `${block.words}: ${block.name}`
    return block.text
  }
  return SheetDocument.parse(sheet).blocks.map(of).join('\n')
}

const phone = { part: 'd1', words: 'Korvane 7', serial: 'KV7-1', condition: 'cracked glass', accessories: 'case' }
const held = after(lost, { do: 'receive', things: [phone], place: 'drawer 4', person: 'Maud Oxley' })

describe('receipts', () => {
  it('name what was handed in, the code, the terms, the shop and the head of the history', () => {
    const sheet = receivedSheet(held, context, { number: 'SL-1/in-1', code: '7KQ2-M4XD' })
    expect(sheet).toMatchObject({
      when: 'Tue 24 Nov 2026, 10:42',
      client: ['Maud Oxley', '07700 900 246'],
      head: context.head,
    })
    expect(sheet.shop.lines).toEqual(['3 Weir Row', 'Millbeck'])
    const said = words(sheet)
    for (const one of ['Serial number: KV7-1', 'Condition: cracked glass', 'Accessories: case', 'Place: drawer 4'])
      expect(said).toContain(one)
    expect(said).toContain('7KQ2-M4XD')
    expect(said).toContain('We keep what came back for 30 days after the return')
    expect(said).toContain('Ring twice.')
  })

  it('say to whom something went back and what is still here', () => {
    const two = after(held, {
      do: 'receive',
      things: [{ part: null, words: 'card reader', serial: '', condition: '', accessories: '' }],
      place: '',
      person: '',
    })
    const gone = after(two, {
      do: 'give-back',
      things: ['t1'],
      person: 'Ennis Carrick',
      against: 'identity',
      condition: 'as it came',
    })
    const said = words(returnedSheet(gone, context, { number: 'SL-1/out-1', things: [gone.things[0]!] }))
    expect(said).toContain('Korvane 7, serial number KV7-1')
    expect(said).toContain('To: Ennis Carrick')
    expect(said).toContain('Condition: as it came')
    expect(said).toContain('Still with us: card reader.')
    expect(said).toContain('24 Dec 2026')
  })

  it('for money add up, with the tax within the price', () => {
    const paid = after(
      held,
      { do: 'charge', words: 'Reading the card', amount: 60 },
      { do: 'pay', kind: 'deposit', amount: 20, way: 'card' },
    )
    const said = words(paidSheet(paid, context, { number: 'R-2026-0001' }))
    expect(said).toContain('Deposit of £20.00 by card')
    expect(said).toContain('Total | £60.00')
    expect(said).toContain('£10.00 VAT (20%)')
    expect(said).toContain('Still open: £40.00.')
  })
})

describe('the options sheet', () => {
  const { plan } = fullPlanOf(lost, playbook, NOW)
  const sheet = optionsSheet(lost, context, { plan, playbook, number: 'SL-1/options-1' })

  it('lays the open ways side by side, in the order of the plan, with chance, need, risk and who sees the data', () => {
    const ways = openWays(plan)
    expect(ways.length).toBeGreaterThan(1)
    expect(ways.every(({ standing }) => standing !== 'closed')).toBe(true)
    const [figures, needs] = sheet.blocks.filter((block) => block.kind === 'table')
    expect(figures!.rows.map(([name]) => name)).toEqual(ways.map(({ title }, at) => `${at + 1}. ${title}`))
    expect(figures!.rows.every((row) => /\d+%/.test(row[1]!) && row.length === figures!.head.length)).toBe(true)
    expect(needs!.rows.every((row) => row.every((cell) => cell !== ''))).toBe(true)
    expect(words(sheet)).toContain(`To begin with: ${ways[0]!.title}`)
  })

  it('gives every chance as a range, and never more than it knows', () => {
    expect(rangeWords([0.6, 0.7, 0.8])).toBe('60% to 80%')
    expect(rangeWords([0.7, 0.7, 0.7])).toBe('70%')
    expect(words(sheet)).toContain('Nothing is promised.')
  })

  it('says a quote where there is one', () => {
    const quoted = after(lost, { do: 'quote', low: 20, high: 60, nothingBack: 0 })
    const said = words(optionsSheet(quoted, context, { plan, playbook, number: 'x' }))
    expect(said).toContain('£20.00 to £60.00')
    expect(said).toContain('Where nothing comes back: £0.00')
  })
})

describe('the report', () => {
  const results = [
    { wanted: 'w1', back: 120, whole: 100, unverified: 5 },
    { wanted: 'w2', back: 4, whole: 4, unverified: 0 },
  ]
  const worked = Case.parse({
    ...held,
    runs: [
      endedRun(results, { kind: 'device-photo-bin', title: 'Photo bin on Korvane 7' }),
      endedRun([], {
        id: 'r2',
        kind: 'computer-backup-picked',
        title: 'Backup',
        hasFailed: true,
        cause: 'nothing-there',
      }),
    ],
  })
  const done = after(
    worked,
    { do: 'outcome', ending: 'in-part', reasons: 'Written over.\nNo copy.', delivered: [{ wanted: 'w1', count: 118 }] },
    { do: 'check', wanted: 'w1', group: 'all', mark: 'missing', note: 'the heron' },
  )
  const { plan } = fullPlanOf(done, playbook, NOW)
  const facts = { number: 'SL-1/report-1', plan, playbook, files: [], entries: [], hasAnnex: false }

  it('says what was lost, tried, back, damaged, missing and why, must-haves first', () => {
    const said = words(reportSheet(done, context, facts))
    expect(said).toContain('Photo bin on Korvane 7 | 24 Nov 2026 | 124 came back')
    expect(said).toContain('did not work: ')
    const [first, second] = ['notes (must-have) | 4 | 4 | 4 | 0 | 0 | –', 'photos | 300 | 120 | 100 | 5 | 15 | 118']
    expect(said.indexOf(first)).toBeGreaterThan(0)
    expect(said.indexOf(second)).toBeGreaterThan(said.indexOf(first))
    expect(said).toContain('180 of 300 photos')
    expect(said).toContain('Written over.')
    expect(said).toContain('You went through all of it with us.')
    expect(said).toContain('In all: something is missing (the heron).')
    expect(said).not.toContain('Annex')
  })

  it('claims no more than the client looked at', () => {
    const check = (group: string, mark = 'right') => ({ do: 'check', wanted: 'w1', group, mark }) as HandoverInput
    const some = words(reportSheet(after(worked, check('2026-10-12'), check('undated')), context, facts))
    expect(some).toContain('You looked at 2 groups of it with us.\nYou found that right.')
    const wrong = words(reportSheet(after(worked, check('2026-10-12', 'not-sure')), context, facts))
    expect(wrong).toContain('12 Oct 2026: you are not sure.')
    expect(wrong).not.toContain('found that right')
    expect(words(reportSheet(worked, context, facts))).not.toContain('with us')
  })

  it('names the damaged items, and says how many more there are', () => {
    const broken = Array.from({ length: 43 }, (_, at) => ({
      path: `heron-${at}.jpg`,
      bytes: 1,
      sha256: '',
      isDamaged: at > 0,
    }))
    const said = words(reportSheet(done, context, { ...facts, files: broken }))
    expect(said).toContain('heron-1.jpg')
    expect(said).toContain('and 2 more')
    expect(said).not.toContain('heron-0.jpg')
  })

  it('says how to avoid it next time from this very case', () => {
    const sentences = avoidingWords(done, plan, playbook)
    expect(sentences[0]).toContain('We knew of no backup of Korvane 7.')
    // That nobody but the shop may see the data is no mistake of the client's.
    expect(sentences.join(' ')).not.toContain('opened once')
    expect(sentences.length).toBeLessThanOrEqual(5)
    expect(new Set(sentences).size).toBe(sentences.length)
    const kept = caseWith({ 'copies.c1': { kind: 'computer-backup' } })
    expect(avoidingWords(kept, { options: [] }, playbook)).toEqual([])
  })

  it('has an annex with checksums and the history where it is asked for, cut where it is long', () => {
    const file = { path: 'a/weir.jpg', bytes: 12, sha256: 'ab'.repeat(32), isDamaged: false }
    const entry = { at: new Date(NOW).toISOString(), by: 'Bram', says: 'logged the case' }
    const said = words(
      reportSheet(done, context, { ...facts, hasAnnex: true, files: Array(500).fill(file), entries: [entry] }),
    )
    expect(said).toContain(`a/weir.jpg | 12 | ${'ab'.repeat(32)}`)
    expect(said).toContain('The first 400 of 500 are listed.')
    expect(said).toContain('Bram | logged the case')
  })
})
