import type { JointState, Problem } from './problem'
import { membersByGroup, nestsOf } from './reached'

/** For subsets of some of the steps one row each: what those subsets leave dark, by column. */
interface Rows {
  /** each subset as one among all steps */
  readonly masks: Int32Array
  /** the rows one after the other; written anew for every state */
  readonly dark: Float64Array
}

/** One copy with its steps by nest, and room for the rows of its subsets. */
interface CopyRows extends Rows {
  readonly group: number
  readonly nests: readonly (Rows & { readonly members: readonly number[] })[]
}

/** Some of the copies, and room for the rows of their subsets. */
interface Half extends Rows {
  readonly copies: readonly CopyRows[]
}

/**
 * Tells, state by state, the value in money of every subset of steps, as if all of them had been tried.
 * Copies are independent, so they are dealt into two halves, each half's subsets are worked out on their
 * own, and what a subset leaves dark is the product of its two rows: a product of two matrices, 2^n times
 * the number of columns in all.
 */
export function valueTables(problem: Problem): (state: JointState) => Float64Array {
  const columns = problem.worth.length
  const groups = membersByGroup(problem, (1 << problem.steps.length) - 1)
  const [left, right] = halvesOf(groups).map((copies) => halfOf(problem, copies)) as [Half, Half]
  const worth = Float64Array.from(problem.worth)
  const whole = worth.reduce((sum, one) => sum + one, 0)
  const ones = new Float64Array(columns).fill(1)
  return (state) => {
    const table = new Float64Array(1 << problem.steps.length)
    fillHalf(left, worth, problem, state)
    fillHalf(right, ones, problem, state)
    multiply(table, left, right, { columns, whole })
    return table
  }
}

/** The copies in two parts that have about as many steps each, the second never fewer. */
function halvesOf(groups: readonly number[][]): [number[][], number[][]] {
  const left: number[][] = []
  const right: number[][] = []
  const count = (half: readonly number[][]) => half.reduce((sum, members) => sum + members.length, 0)
  for (const members of groups.toSorted((one, other) => other.length - one.length))
    if (count(left) + members.length <= count(right)) left.push(members)
    else right.push(members)
  return [left, right]
}

function halfOf(problem: Problem, groups: readonly number[][]): Half {
  const columns = problem.worth.length
  const copies = groups.map((members): CopyRows => {
    const nests = nestsOf(problem, members).map((nest) => ({
      members: nest,
      ...roomFor([masksOf(nest)], columns),
    }))
    return {
      group: problem.steps[members[0]!]!.group,
      nests,
      ...roomFor(
        nests.map(({ masks }) => masks),
        columns,
      ),
    }
  })
  return {
    copies,
    ...roomFor(
      copies.map(({ masks }) => masks),
      columns,
    ),
  }
}

/** By subset of these steps, counted in binary, that subset among all steps. */
function masksOf(members: readonly number[]): Int32Array {
  const masks = new Int32Array(1 << members.length)
  for (let subset = 1; subset < masks.length; subset++) {
    const last = 31 - Math.clz32(subset)
    masks[subset] = masks[subset ^ (1 << last)]! | (1 << members[last]!)
  }
  return masks
}

/** Room for one row for every combination of these subsets, in the order in which `expand` fills them. */
function roomFor(factors: readonly Int32Array[], columns: number): Rows {
  let masks = new Int32Array(1)
  for (const factor of factors) {
    const wider = new Int32Array(masks.length * factor.length)
    for (let at = 0; at < wider.length; at++)
      wider[at] = masks[at % masks.length]! | factor[Math.floor(at / masks.length)]!
    masks = wider
  }
  return { masks, dark: new Float64Array(masks.length * columns) }
}

function fillHalf(half: Half, start: Float64Array, problem: Problem, state: JointState) {
  const columns = start.length
  half.dark.set(start)
  let filled = columns
  for (const copy of half.copies) {
    fillCopy(copy, problem, state)
    filled = expand(half.dark, filled, copy.dark, columns)
  }
}

/** What one copy's steps leave dark: what its nests leave, for the part of the chance that it can be read at all. */
function fillCopy({ group, nests, dark }: CopyRows, problem: Problem, state: JointState) {
  const columns = problem.worth.length
  dark.fill(1, 0, columns)
  let filled = columns
  for (const nest of nests) {
    fillNest(nest.dark, nest.members, state, columns)
    filled = expand(dark, filled, nest.dark, columns)
  }
  const access = state.access[group]!
  for (let at = 0; at < dark.length; at++) dark[at] = 1 - access * (1 - dark[at]!)
}

/** What the passes of one nest leave dark, of which only the largest counts. */
function fillNest(dark: Float64Array, members: readonly number[], state: JointState, columns: number) {
  dark.fill(1, 0, columns)
  for (let subset = 1; subset < 1 << members.length; subset++) {
    const last = 31 - Math.clz32(subset)
    const row = subset * columns
    const before = (subset ^ (1 << last)) * columns
    const own = state.own[members[last]!]!
    const share = state.share[members[last]!]!
    for (let column = 0; column < columns; column++)
      dark[row + column] = Math.min(dark[before + column]!, 1 - own * share[column]!)
  }
}

/** Multiplies the rows that are there with every row of a factor but its first, which is all ones. */
function expand(dark: Float64Array, filled: number, factor: Float64Array, columns: number): number {
  let at = filled
  for (let row = columns; row < factor.length; row += columns)
    for (let from = 0; from < filled; from += columns)
      for (let column = 0; column < columns; column++, at++) dark[at] = dark[from + column]! * factor[row + column]!
  return at
}

interface Sizes {
  readonly columns: number
  /** in money: what everything that is missing is worth */
  readonly whole: number
}

/** The value of every row of one half with every row of the other. */
function multiply(table: Float64Array, left: Half, right: Half, sizes: Sizes) {
  const rows = left.masks.length
  const isBlocked = rows > 1 && right.masks.length >= 4
  for (let row = 0; row < rows; row += 2)
    if (isBlocked)
      for (let other = 0; other < right.masks.length; other += 4) block(table, left, row, right, other, sizes)
    else for (let one = row; one < Math.min(rows, row + 2); one++) plainRow(table, left, one, right, sizes)
}

/** Two rows with four others at once, so that most of the work is done in registers. */
function block(table: Float64Array, left: Half, row: number, right: Half, other: number, { columns, whole }: Sizes) {
  const one = left.dark
  const two = right.dark
  const p = row * columns
  const q = p + columns
  const a = other * columns
  const b = a + columns
  const c = b + columns
  const d = c + columns
  let pa = whole
  let pb = whole
  let pc = whole
  let pd = whole
  let qa = whole
  let qb = whole
  let qc = whole
  let qd = whole
  for (let column = 0; column < columns; column++) {
    const x = one[p + column]!
    const y = one[q + column]!
    const darkA = two[a + column]!
    const darkB = two[b + column]!
    const darkC = two[c + column]!
    const darkD = two[d + column]!
    pa -= x * darkA
    pb -= x * darkB
    pc -= x * darkC
    pd -= x * darkD
    qa -= y * darkA
    qb -= y * darkB
    qc -= y * darkC
    qd -= y * darkD
  }
  const [first, second] = [left.masks[row]!, left.masks[row + 1]!]
  const { masks } = right
  table[first | masks[other]!] = pa
  table[first | masks[other + 1]!] = pb
  table[first | masks[other + 2]!] = pc
  table[first | masks[other + 3]!] = pd
  table[second | masks[other]!] = qa
  table[second | masks[other + 1]!] = qb
  table[second | masks[other + 2]!] = qc
  table[second | masks[other + 3]!] = qd
}

/** The same for halves that are too small for blocks. */
function plainRow(table: Float64Array, left: Half, row: number, right: Half, { columns, whole }: Sizes) {
  for (let other = 0; other < right.masks.length; other++) {
    let value = whole
    for (let column = 0; column < columns; column++)
      value -= left.dark[row * columns + column]! * right.dark[other * columns + column]!
    table[left.masks[row]! | right.masks[other]!] = value
  }
}
