import { partial, unverified, type Format } from './format'

const KIND = { mime: 'application/rtf', extension: 'rtf', type: 'documents' } as const
const STEP = 64 * 1024
const MAX_BYTES = 256 * 1024 * 1024

/** RTF: its braces must close; the last closing one is its end. */
export const rtf: Format = {
  id: 'rtf',
  extensions: ['rtf'],
  signatures: [[0, '{\\rtf']],
  walk(reader) {
    if (!reader.is(0, '{\\rtf')) return null
    let depth = 0
    let isEscaped = false
    const most = Math.min(reader.size, MAX_BYTES)
    for (let from = 0; from < most; from += STEP) {
      const bytes = reader.source.read(from, Math.min(STEP, most - from))
      for (let at = 0; at < bytes.length; at++) {
        const byte = bytes[at]!
        if (byte === 0) return partial(KIND, { provenTo: 0, breaksAt: from + at, why: 'braces are unbalanced' })
        if (isEscaped) isEscaped = false
        else if (byte === 0x5c) isEscaped = true
        else if (byte === 0x7b) depth++
        else if (byte === 0x7d && --depth === 0) return unverified(KIND, from + at + 1, 'braces are balanced')
      }
    }
    return partial(KIND, { provenTo: 0, breaksAt: most, why: 'braces are unbalanced' })
  },
}
