/** The longest name of an entry, in characters; no real folder has longer ones. */
const LONGEST = 1000
const DEEPEST = 60

/**
 * The parts of an entry's name, or null where the name leads out of its folder or is invalid: absolute, with a drive,
 * with "..", with control characters, or too long. Backslashes count as separators, since some archives use them.
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

/** An entry's name rebuilt from its parts, without what an archive puts before it; null where it is invalid. */
export const cleanName = (name: string): string | null => entryParts(name)?.join('/') ?? null
