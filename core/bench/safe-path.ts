/** Names that some systems reserve, whatever the extension. */
const RESERVED = /^(con|prn|aux|nul|com\d|lpt\d)(\..*)?$/i
const LONGEST_NAME = 120
const DEEPEST = 12

/**
 * A name for a file or folder that every common file system accepts: no separators, no control or bidirectional
 * characters, nothing at its ends that some systems strip, not too long; never empty, never "..". The extension is
 * kept.
 */
export function safeName(name: string): string {
  const plain = name
    .normalize('NFC')
    // eslint-disable-next-line no-control-regex
    .replace(/[\u0000-\u001f\u007f-\u009f\u200b-\u200f\u202a-\u202e\u2066-\u2069\ufeff]/g, '')
    .replace(/[\\/:*?"<>|]/g, '_')
    .replace(/[. ]+$/, '')
    .replace(/^ +/, '')
  const shown = plain === '' || /^\.+$/.test(plain) ? 'unnamed' : plain
  const free = RESERVED.test(shown) ? `_${shown}` : shown
  return shortened(free)
}

function shortened(name: string): string {
  const letters = [...name]
  if (letters.length <= LONGEST_NAME) return name
  const dot = name.lastIndexOf('.')
  const extension = dot > 0 && name.length - dot <= 12 ? name.slice(dot) : ''
  return `${letters
    .slice(0, LONGEST_NAME - extension.length)
    .join('')
    .trimEnd()}${extension}`
}

/** Gives every item a path of its own below a folder, made from the names its owner gave it; no two are equal. */
export class SafePaths {
  private readonly taken = new Set<string>()

  /** reserves existing paths, so that nothing is overwritten */
  constructor(there: Iterable<string> = []) {
    for (const path of there) this.taken.add(keyOf(path))
  }

  /** a path with forward slashes, different from every earlier one even where case is ignored */
  pathFor(place: readonly string[], name: string): string {
    const folder = place.slice(0, DEEPEST).map(safeName)
    const safe = safeName(name)
    const dot = safe.lastIndexOf('.')
    const [stem, extension] = dot > 0 ? [safe.slice(0, dot), safe.slice(dot)] : [safe, '']
    for (let number = 1; ; number++) {
      const path = [...folder, number === 1 ? safe : `${stem} (${number})${extension}`].join('/')
      if (this.taken.has(keyOf(path))) continue
      this.taken.add(keyOf(path))
      return path
    }
  }
}

const keyOf = (path: string) => path.normalize('NFC').toLowerCase()
