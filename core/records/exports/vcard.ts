import ICAL from 'ical.js'
import { recordTitle, type RecordOf } from '../record'
import { only, type RecordFormat } from './record-format'

/** vCard 4.0 (RFC 6350), one card a contact. */
export const vcard: RecordFormat = {
  id: 'vcard',
  title: 'vCard',
  extension: 'vcf',
  mime: 'text/vcard',
  kinds: ['contact'],
  write: (records) => only(records, 'contact').map(card).join(''),
}

function card(contact: RecordOf<'contact'>): string {
  const component = new ICAL.Component(['vcard', [], []])
  component.addPropertyWithValue('version', '4.0')
  component.addPropertyWithValue('fn', recordTitle(contact))
  const [family = '', ...given] = contact.name.split(/\s+/).reverse()
  component.addProperty(new ICAL.Property(['n', {}, 'text', [family, given.reverse().join(' '), '', '', '']] as never))
  for (const phone of contact.phones) component.addPropertyWithValue('tel', phone)
  for (const mail of contact.mails) component.addPropertyWithValue('email', mail)
  if (contact.organisation !== '') component.addPropertyWithValue('org', contact.organisation)
  if (contact.note !== '') component.addPropertyWithValue('note', contact.note)
  return `${component.toString()}\r\n`
}
