import { eq } from 'drizzle-orm'
import { createSHA256, type IHasher } from 'hash-wasm'
import { Case } from '../../core/cases/shape/case'
import { known } from '../../core/cases/shape/fact'
import { formatsOf } from '../../core/files/formats/of-types'
import { PassOptions, PassProgress, type PassState } from '../../core/bench/medium'
import { findVolumes } from '../../core/volumes/volumes'
import type { MediaItem } from '../../core/scanning/item'
import { withoutContradictions } from '../../core/scanning/merge'
import { markUnreadable, scanImage, type ScanProgress } from '../../core/scanning/scan'
import { PatientSource } from '../../core/sources/patient-source'
import type { ByteSource } from '../../core/sources/source'
import { carrySelection } from '../listings/carry-selection'
import type { Handle } from '../cases/rows'
import type { Database } from '../db/open'
import { cases, looks, passes } from '../db/tables'
import { openMedium, type MediumPlace } from '../threads/open-medium'
import { readPlaybook } from '../settings'
import { FoundRows } from './found-rows'
import { keepsOf } from './found-item'
import { dropNotes, readNotes, resumeOf, writeNote, type PassNote } from './pass-notes'

/** What a job is asked to do meanwhile. `end`: stop at once, and leave the pass as it was last written down. */
export type Wish = 'continue' | 'pause' | 'finish' | 'end'

export interface PassJob {
  readonly passId: number
  /** written into the pass when it is given out; where another stands there, this job was replaced */
  readonly claim: string
  readonly medium: MediumPlace
}

/** What a job needs of whoever runs it. */
export interface PassPort {
  tell(progress: PassProgress): void
  wish(): Wish
  /** ms, from any zero */
  clock(): number
}

/** Somebody else has this pass by now. */
export class Replaced extends Error {}

/** Checkpoint interval: at most this much work is lost on a crash. */
const NOTE_MS = 1000
const NOTE_ITEMS = 2000
const TELL_MS = 250
const HASH_BYTES = 1 << 20
/** so much of the checksum at a time, between two looks at what is wished */
const HASH_STEPS = 8
const MAX_BAD_PLACES = 400
const PHASES = { quick: 'records', deep: 'content', join: 'joining' } as const

type Where = Pick<PassProgress, 'phase' | 'done' | 'of'>

/**
 * Carries a pass out from where it came to, and writes what it finds as it goes. Answers the state in which it left the
 * pass; `running` where it was told to end, or lost it to another. Throws what the system throws where the medium can
 * not be opened or read.
 */
export async function runPass(database: Database, job: PassJob, port: PassPort): Promise<PassState> {
  const medium = openMedium(job.medium)
  try {
    return await new PassRun(database, job, port, medium).run()
  } catch (error) {
    if (error instanceof Replaced) return 'running'
    throw error
  } finally {
    medium.close()
  }
}

class PassRun {
  private readonly lookId: number
  private readonly options: PassOptions
  private readonly before: PassProgress | null
  private readonly notes: readonly PassNote[]
  private readonly image: PatientSource
  private readonly rows: FoundRows
  /** how many are wanted of each set, where that is known */
  private readonly targets: readonly { readonly id: string; readonly count: number }[]
  private readonly began: number
  private bytesRead = 0
  /** what was read last: what the checksum then needs is not asked of the medium again */
  private lastBlock: Block = { offset: 0, bytes: new Uint8Array(0) }
  private hasher: IHasher | null = null
  private hashedTo = 0

  private where: Where = { phase: 'records', done: 0, of: 0 }
  /** for the estimate: where the present phase was when it began in this sitting */
  private phaseBegan = { phase: '', done: 0, at: 0 }
  private lastTold = -Infinity
  private lastNoted: number
  /** up to where the content was looked at, in bytes */
  private at: number
  /** everything reported so far, by its key */
  private readonly all = new Map<string, MediaItem>()
  private readonly waiting = new Map<string, MediaItem>()
  private content: MediaItem[] = []
  private traces: number[] = []

  constructor(
    private readonly database: Database,
    private readonly job: PassJob,
    private readonly port: PassPort,
    medium: ByteSource,
  ) {
    const pass = this.mine(database)
    this.lookId = pass.lookId
    this.options = PassOptions.parse(JSON.parse(pass.options))
    this.before = pass.progress === null ? null : PassProgress.parse(JSON.parse(pass.progress))
    this.notes = readNotes(database, job.passId)
    this.at = this.notes.at(-1)?.at ?? 0
    this.began = port.clock()
    this.lastNoted = this.began
    this.image = new PatientSource(
      watched(medium, (block) => {
        this.bytesRead += block.bytes.length
        this.lastBlock = block
      }),
      this.notes.at(-1)?.unreadable,
    )
    const row = database.select({ body: cases.body }).from(cases).where(eq(cases.id, pass.caseId)).get()!
    const ofCase = Case.parse(JSON.parse(row.body))
    this.targets = ofCase.wanted.flatMap((set) => (known(set.count) ? [{ id: set.id, count: set.count }] : []))
    this.rows = new FoundRows(
      database,
      this.lookId,
      { ofCase, isOwn: pass.isOwn, zone: readPlaybook(database).shop.zone },
      keepsOf(
        findVolumes(this.image).volumes.map(({ shape }) => shape),
        pass.stamp,
      ),
      this.image,
    )
  }

  async run(): Promise<PassState> {
    // The start is reported at once: the records of a slow medium take a while.
    this.port.tell(this.progress())
    await this.prepareChecksum()
    const resume = resumeOf(this.notes)
    for (const item of resume?.items ?? []) if (this.rows.has(item)) this.all.set(item.key, item)
    const { pass, types, isWhole } = this.options
    const steps = scanImage(this.image, {
      pass,
      only: 'all',
      keepsRecords: true,
      formats: formatsOf(types),
      isWhole,
      ...(resume ? { resume } : {}),
    })
    let isThroughRecords = false
    let step = steps.next()
    for (; !step.done; step = steps.next()) {
      if (step.value.pass !== 'quick' && !isThroughRecords) {
        isThroughRecords = true
        await this.write()
        // The previous listing is no longer needed once this one has all of its records.
        this.transaction((handle) => carrySelection(handle, this.lookId))
      }
      this.take(step.value)
      const ended = (await this.hashTo(step.value.at ?? 0)) ?? (await this.between())
      if (ended) return ended
    }
    return this.finish([...step.value.items])
  }

  private take({ pass, done, of, at, items, content, traces }: ScanProgress): void {
    for (const item of items) {
      markUnreadable(this.image, item)
      this.all.set(item.key, item)
      this.waiting.set(item.key, item)
    }
    this.content.push(...content)
    this.traces.push(...traces)
    if (at !== null) this.at = at
    this.move({ phase: PHASES[pass], done, of })
  }

  private move(where: Where): void {
    this.where = where
    if (this.phaseBegan.phase !== where.phase)
      this.phaseBegan = { phase: where.phase, done: where.done, at: this.port.clock() }
  }

  /** Everything that has to happen between two steps; a state where the job ends here. */
  private async between(): Promise<PassState | null> {
    const now = this.port.clock()
    if (now - this.lastNoted >= NOTE_MS || this.waiting.size >= NOTE_ITEMS) await this.write()
    if (now - this.lastTold >= TELL_MS) {
      this.lastTold = now
      this.port.tell(this.progress())
    }
    // Lets in what was wished.
    await new Promise((done) => setImmediate(done))
    const wish = this.port.wish()
    if (wish === 'end') return 'running'
    if (wish === 'pause') {
      await this.write()
      return this.leave('paused', '')
    }
    if (wish === 'finish') return this.stopEarly('Ended by the technician.')
    if (this.options.stopsWhenFound && this.hasAll()) return this.stopEarly('As many as wanted were found.')
    return null
  }

  private hasAll(): boolean {
    const { wantedWhole } = this.rows
    return this.targets.length > 0 && this.targets.every(({ id, count }) => (wantedWhole.get(id) ?? 0) >= count)
  }

  private progress(): PassProgress {
    const now = this.port.clock()
    const { phase, done, of } = this.where
    const seconds = (now - this.phaseBegan.at) / 1000
    const come = done - this.phaseBegan.done
    const unreadable = this.image.unreadable()
    return {
      phase,
      done,
      of,
      at: Math.min(this.at, this.image.size),
      found: this.rows.size,
      byType: Object.fromEntries(this.rows.byType),
      wanted: this.rows.wanted,
      bytesRead: (this.before?.bytesRead ?? 0) + this.bytesRead,
      seconds: (this.before?.seconds ?? 0) + (now - this.began) / 1000,
      secondsLeft: seconds > 0.5 && come > 0 ? ((of - done) * seconds) / come : null,
      unreadable: unreadable.slice(0, MAX_BAD_PLACES).map(([offset, length]) => [offset, length]),
      unreadableBytes: unreadable.reduce((sum, [, length]) => sum + length, 0),
    }
  }

  /** Writes down what was found since, and how far the pass came, in one transaction. */
  private async write(): Promise<void> {
    const rows = await this.rows.rowsOf([...this.waiting.values()])
    const note: PassNote = {
      at: this.at,
      content: this.content,
      traces: this.traces,
      unreadable: this.image.unreadable().map(([offset, length]): [number, number] => [offset, length]),
      checksum: this.hasher && {
        to: this.hashedTo,
        state: Buffer.from(this.hasher.save()).toString('base64'),
      },
    }
    this.transaction((handle) => {
      this.rows.store(handle, rows)
      // Records are read again at once; only results that took long are noted.
      if (this.at > 0 || this.hashedTo > 0) writeNote(handle, this.job.passId, note)
      this.set(handle, { progress: JSON.stringify(this.progress()) })
    })
    this.waiting.clear()
    this.content = []
    this.traces = []
    this.lastNoted = this.port.clock()
  }

  private leave(state: PassState, says: string, more: Partial<typeof passes.$inferInsert> = {}): PassState {
    this.transaction((handle) => {
      this.set(handle, { state, says, progress: JSON.stringify(this.progress()), ...more })
      if (state === 'enough' || state === 'done')
        handle.update(looks).set({ state: 'whole', says: '' }).where(eq(looks.id, this.lookId)).run()
      if (state === 'done') dropNotes(handle, this.job.passId)
    })
    return state
  }

  private async stopEarly(says: string): Promise<PassState> {
    await this.write()
    const all = [...this.all.values()]
    withoutContradictions(all)
    await this.settle(all)
    this.transaction((handle) => carrySelection(handle, this.lookId))
    return this.leave('enough', says)
  }

  private async finish(items: MediaItem[]): Promise<PassState> {
    await this.write()
    await this.settle(items)
    this.transaction((handle) => {
      this.rows.keepOnly(items)
      carrySelection(handle, this.lookId)
    })
    const ended = await this.hashTo(this.image.size, true)
    return ended ?? this.leave('done', '', this.hasher ? { sha256: this.hasher.digest('hex') } : {})
  }

  /** Stores what is known of all in the end. */
  private async settle(items: readonly MediaItem[]): Promise<void> {
    for (let at = 0; at < items.length; at += NOTE_ITEMS) {
      const some = items.slice(at, at + NOTE_ITEMS)
      for (const item of some) markUnreadable(this.image, item)
      const rows = await this.rows.rowsOf(some)
      this.transaction((handle) => this.rows.store(handle, rows))
      await new Promise((done) => setImmediate(done))
    }
  }

  private async prepareChecksum(): Promise<void> {
    if (!this.options.takesChecksum) return
    this.hasher = await createSHA256()
    this.hasher.init()
    const checksum = this.notes.at(-1)?.checksum
    if (!checksum) return
    this.hasher.load(Buffer.from(checksum.state, 'base64'))
    this.hashedTo = checksum.to
  }

  /** Takes the checksum as far as the medium was looked at, what is in use included; a state where the job ends on the way. */
  private async hashTo(to: number, isLast = false): Promise<PassState | null> {
    if (!this.hasher) return null
    const phase = isLast ? 'checksum' : this.where.phase
    for (let steps = 1; this.hashedTo < to; steps++) {
      const part = this.partAt(this.hashedTo, Math.min(HASH_BYTES, to - this.hashedTo))
      if (part.length === 0) break
      this.hasher.update(part)
      this.hashedTo += part.length
      if (phase !== 'records') this.move({ phase, done: this.hashedTo, of: this.image.size })
      const ended = steps % HASH_STEPS === 0 ? await this.between() : null
      if (ended) return ended
    }
    return null
  }

  private partAt(offset: number, most: number): Uint8Array {
    const { offset: from, bytes } = this.lastBlock
    if (offset >= from && offset < from + bytes.length) return bytes.subarray(offset - from, offset - from + most)
    return this.image.read(offset, offset < from ? Math.min(most, from - offset) : most)
  }

  private transaction(work: (handle: Handle) => void): void {
    this.database.transaction(
      (handle) => {
        this.mine(handle)
        work(handle)
      },
      { behavior: 'immediate' },
    )
  }

  private set(handle: Handle, values: Partial<typeof passes.$inferInsert>): void {
    handle.update(passes).set(values).where(eq(passes.id, this.job.passId)).run()
  }

  /** The pass, as long as it is this job's. */
  private mine(handle: Handle): typeof passes.$inferSelect {
    const pass = handle.select().from(passes).where(eq(passes.id, this.job.passId)).get()
    if (pass?.claim !== this.job.claim) throw new Replaced()
    return pass
  }
}

interface Block {
  readonly offset: number
  readonly bytes: Uint8Array
}

/** Wraps a source and reports each read; the buffer is valid until the next read. */
function watched(source: ByteSource, tell: (block: Block) => void): ByteSource {
  return {
    size: source.size,
    read: (offset, length) => {
      const bytes = source.read(offset, length)
      tell({ offset, bytes })
      return bytes
    },
    ...(source.readInto
      ? {
          readInto: (bytes: Uint8Array, offset: number) => {
            const have = source.readInto!(bytes, offset)
            tell({ offset, bytes: bytes.subarray(0, have) })
            return have
          },
        }
      : {}),
  }
}
