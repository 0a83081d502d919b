/** The longest name of an entry, in characters; longer ones come from nobody's folder. */
const LONGEST = 1000
const DEEPEST = 60

/**
 * The parts of an entry's name, or null where the name wants out of its folder or can be no name: absolute,
 * with a drive, climbing, with control characters, or too long. Backslashes count as separators, since
 * some archives are written with them.
 */
export function entryParts(name: string): string[] | null {
  if (name.length === 0 || name.length > LONGEST) return null
  // An archive that was made of a folder names everything from "./" on.
  const parts = name
    .replaceAll('\\', '/')
    .replace(/^(\.\/+)+/, '')
    .split('/')
  // A folder's entry ends in a separator.
  if (parts.at(-1) === '') parts.pop()
  // eslint-disable-next-line no-control-regex
  const isBad = (part: string) => part === '' || part === '.' || part === '..' || /[\u0000-\u001f\u007f]/.test(part)
  if (parts.length === 0 || parts.length > DEEPEST || parts.some(isBad) || /^[a-z]:$/i.test(parts[0]!)) return null
  return parts
}

/** An entry's name as its parts make it, without what an archive puts before it; null where it can be none. */
export const cleanName = (name: string): string | null => entryParts(name)?.join('/') ?? null
