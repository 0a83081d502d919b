/** A value of a settings text: a number, a string, a list, or a section of further settings. */
export type Setting = number | string | Setting[] | Section
export interface Section {
  readonly [name: string]: Setting
}

const MAX_DEPTH = 12
const TOKEN = /\s+|#[^\n]*|"((?:[^"\\]|\\.)*)"|([{}[\]=,])|([^\s"#{}[\]=,]+)/gy

/**
 * Reads the text in which a volume group is described: names with a value, a list in brackets, or a section in braces; notes
 * after a number sign. Null where it is not of that form.
 */
export function readSettings(text: string): Section | null {
  const tokens = tokensOf(text)
  if (!tokens) return null
  let at = 0
  const next = () => tokens[at++]
  const value = (depth: number): Setting | null => {
    const token = next()
    if (token === undefined || depth > MAX_DEPTH) return null
    if (typeof token !== 'string') return token.text
    if (token !== '[') return /^[0-9]{1,15}$/.test(token) ? Number(token) : null
    const list: Setting[] = []
    while (tokens[at] !== ']') {
      const one = value(depth + 1)
      if (one === null) return null
      list.push(one)
      if (tokens[at] === ',') at++
      else if (tokens[at] !== ']') return null
    }
    at++
    return list
  }
  const section = (depth: number, isOuter: boolean): Section | null => {
    const own = new Map<string, Setting>()
    if (depth > MAX_DEPTH) return null
    for (let name = next(); name !== (isOuter ? undefined : '}'); name = next()) {
      if (typeof name !== 'string' || /^[{}[\]=,]$/.test(name)) return null
      const mark = next()
      const told = mark === '{' ? section(depth + 1, false) : mark === '=' ? value(depth + 1) : null
      if (told === null) return null
      own.set(name, told)
    }
    return Object.fromEntries(own)
  }
  return section(0, true)
}

/** Words and signs as they are, strings apart from them; null where something is neither. */
function tokensOf(text: string): (string | { text: string })[] | null {
  const tokens: (string | { text: string })[] = []
  TOKEN.lastIndex = 0
  while (TOKEN.lastIndex < text.length) {
    const found = TOKEN.exec(text)
    if (!found) return null
    const [, string, sign, word] = found
    if (string !== undefined) tokens.push({ text: string.replace(/\\(.)/g, '$1') })
    else if (sign ?? word) tokens.push((sign ?? word)!)
  }
  return tokens
}
