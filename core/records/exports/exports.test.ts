import ical from 'node-ical'
import { parse as parseCard } from 'vcard4'
import { describe, expect, it } from 'vitest'
import { RECORD_KINDS, recordTitle, type AppRecord } from '../record'
import { csv } from './csv'
import { html } from './html'
import { icalendar } from './icalendar'
import { json } from './json'
import { markdown } from './markdown'
import { formatsFor, RECORD_FORMATS } from './registry'
import { vcard } from './vcard'

const samples = RECORD_KINDS.map(({ sample }) => sample as AppRecord)

describe.each(RECORD_FORMATS)('$title', ({ id, extension, mime, kinds, write }) => {
  it('has a name, an extension and a media type of its own', () => {
    for (const of of ['id', 'title', 'extension', 'mime'] as const)
      expect(RECORD_FORMATS.filter((one) => one[of] === { id, title: '', extension, mime }[of]).length).toBeLessThan(2)
    expect(mime).toMatch(/^[a-z]+\/[a-z0-9.+-]+$/)
    expect(extension).toMatch(/^[a-z0-9]+$/)
  })

  it('holds the records of its kinds, by title, and no others', () => {
    const taken = samples.filter((one) => kinds === null || kinds.includes(one.kind))
    expect(taken.length).toBeGreaterThan(0)
    for (const one of taken) {
      const text = write([one])
      expect(text, one.kind).toContain(recordTitle(one))
      if (kinds !== null) expect(write(samples)).toContain(recordTitle(one))
    }
  })

  it('is chosen for the kinds that it takes, and for no other', () => {
    for (const { kind } of RECORD_KINDS)
      expect(formatsFor(kind).some((one) => one.id === id)).toBe(kinds === null || kinds.includes(kind))
  })
})

it('JSON keeps all of every record, and a note is a page of Markdown', () => {
  expect(JSON.parse(json.write(samples))).toEqual(samples)
  expect(markdown.write([{ kind: 'note', title: 'T', text: 'body', changed: null }])).toBe('# T\n\nbody\n')
})

describe('open formats', () => {
  const contact: AppRecord = {
    kind: 'contact',
    name: 'Alma; of the Tarn, née Ünal',
    phones: ['+44 1632 960111'],
    mails: ['a@example.org'],
    organisation: '',
    note: 'line one\nline two',
  }
  it('vCard and iCalendar are read back by another reader as they were', () => {
    const card = parseCard(vcard.write([contact])) as { parsedVcard: { property: string; value: string | string[] }[] }
    const said = (name: string) => [card.parsedVcard.find(({ property }) => property === name)!.value].flat().join(';')
    expect([said('FN'), said('NOTE'), said('TEL')]).toEqual([contact.name, contact.note, '+44 1632 960111'])
    const event: AppRecord = {
      kind: 'event',
      title: 'Weed, count',
      starts: '2026-11-24T10:00:00Z',
      ends: '2026-11-24T11:00:00Z',
      place: 'Lock 7',
      note: '',
      isAllDay: false,
    }
    const [read] = Object.values(ical.sync.parseICS(icalendar.write([event]))).filter((one) => one?.type === 'VEVENT')
    expect([read!.summary, read!.start.toISOString()]).toEqual(['Weed, count', '2026-11-24T10:00:00.000Z'])
  })

  it('bookmarks cannot break out of their page, nor a cell out of its sheet', () => {
    const page = html.write([
      {
        kind: 'bookmark',
        title: '<script>x</script>',
        url: 'https://a.example/"onclick="x',
        folder: ['<b>'],
        added: null,
      },
    ])
    expect(page).not.toMatch(/<script>|"onclick|<b>/)
    const sheet = csv.write([{ ...contact, name: '=HYPERLINK("x")', note: '' }])
    expect(sheet).toContain(`'=HYPERLINK`)
    expect(sheet.split('\n')[0]).toBe('name,phones,mails,organisation,note')
    expect(sheet).toContain('+44 1632 960111')
  })
})
