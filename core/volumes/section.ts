import type { Volume } from './volumes'

/**
 * The section of a medium: for each of `parts` equal parts of it, the fraction in use by its file systems; null for
 * parts outside every known file system. Size in bytes.
 */
export function inUseOf(bytes: number, volumes: readonly Volume[], parts: number): (number | null)[] {
  const told = new Float64Array(parts)
  const used = new Float64Array(parts)
  const add = (to: Float64Array, from: number, end: number) => {
    for (let at = Math.max(0, from); at < Math.min(end, bytes);) {
      const part = Math.min(parts - 1, Math.floor((at / bytes) * parts))
      const next = Math.min(end, bytes, part === parts - 1 ? bytes : Math.max(at + 1, ((part + 1) * bytes) / parts))
      to[part]! += next - at
      at = next
    }
  }
  for (const { shape, fileSystem } of volumes) {
    if (!fileSystem) continue
    const { unitBytes, unitsFrom, allocated } = fileSystem
    add(told, shape.offset, shape.offset + shape.bytes)
    let from = shape.offset
    for (const [first, count] of allocated.gaps()) {
      add(used, from, unitsFrom + first * unitBytes)
      from = unitsFrom + (first + count) * unitBytes
    }
    add(used, from, Math.min(shape.offset + shape.bytes, unitsFrom + allocated.count * unitBytes))
  }
  return Array.from(told, (all, part) => (all === 0 ? null : Math.max(0, Math.min(1, used[part]! / all))))
}
