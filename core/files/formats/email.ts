import { unverified, type Format } from './format'
import { textEnd } from './text'

const KIND = { mime: 'message/rfc822', extension: 'eml', type: 'mail' } as const
const FIRST = [
  'Return-Path: ',
  'Received: ',
  'From: ',
  'Date: ',
  'Message-ID: ',
  'Delivered-To: ',
  'MIME-Version: ',
  'Subject: ',
  'X-',
  'DKIM-Signature: ',
  'To: ',
]
const NEEDED = [/^From: /im, /^(Date|Message-ID|Received|To|Subject): /im]

/**
 * A message: fields that name at least a sender, an empty line, then text (RFC 5322, section 2). It has no end mark.
 */
export const email: Format = {
  id: 'email',
  isLoose: true,
  extensions: ['eml'],
  signatures: FIRST.map((first) => [0, first] as const),
  walk(reader) {
    if (!FIRST.some((first) => reader.is(0, first))) return null
    const head = reader.text(0, Math.min(16_384, reader.size)).split(/\r?\n\r?\n/)[0]!
    const isHead = head.split(/\r?\n/).every((line) => /^([!-9;-~]+:|[ \t])/.test(line) || line === '')
    if (!isHead || !NEEDED.every((field) => field.test(head))) return null
    return unverified(KIND, textEnd(reader), 'header fields are valid; the end of the message is not marked')
  },
}
