import type { Computer } from '../things'

/** What is free on its disk, bytes. */
export const freeBytes = (computer: Computer) =>
  computer.faults.isFull
    ? 0
    : Math.max(
        0,
        computer.room.capacity -
          computer.room.other -
          computer.keeps.reduce((sum, keep) => sum + keep.items.reduce((all, one) => all + one.bytes, 0), 0),
      )
