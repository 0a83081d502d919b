import { eq } from 'drizzle-orm'
import { PassOptions, PassProgress, type PassState } from '../../core/bench/medium'
import { Case } from '../../core/cases/shape/case'
import { known } from '../../core/cases/shape/fact'
import { formatsOf } from '../../core/files/formats/of-types'
import type { MediaItem } from '../../core/scanning/item'
import type { Helpers } from '../../core/scanning/helpers'
import { withoutContradictions } from '../../core/scanning/merge'
import { markUnreadable, scanImage, type ScanProgress } from '../../core/scanning/scan'
import { PatientSource } from '../../core/sources/patient-source'
import type { ByteSource } from '../../core/sources/source'
import { timed, watched } from '../../core/sources/watched'
import { findVolumes } from '../../core/volumes/volumes'
import { HelperThreads } from '../../disk/helper-threads'
import type { Database } from '../db/open'
import type { passes } from '../db/tables'
import { cases, listings } from '../db/tables'
import { carrySelection } from '../listings/carry-selection'
import { readPlaybook } from '../settings'
import { jobFile } from '../threads/files'
import { openMedium, type MediumPlace } from '../threads/open-medium'
import { keepsOf } from './found-item'
import { FoundRows } from './found-rows'
import { PassChecksum } from './pass-checksum'
import { PassClaim, Replaced } from './pass-claim'
import { PassCourse } from './pass-course'
import { dropNotes, readNotes, resumeOf, writeNote, type PassNote } from './pass-notes'

/** What a job is asked to do meanwhile. `end`: stop at once, and leave the pass at its last checkpoint. */
export type Wish = 'continue' | 'pause' | 'finish' | 'end'

export interface PassJob {
  readonly passId: number
  /** written into the pass when it is handed out; where the pass has another word, this job was replaced */
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

/** Checkpoint interval: at most this much work is lost on a crash. */
const NOTE_MS = 1000
const NOTE_ITEMS = 2000
const TELL_MS = 250
/** steps of the checksum before the job asks again what is wished */
const CHECKSUM_STEPS = 8
const PHASES = { quick: 'records', deep: 'content', join: 'joining' } as const

/**
 * Resumes a pass from its last checkpoint and stores what it finds as it goes. Returns the state in which it left the
 * pass; `running` where it was asked to end, or another job has the pass now. Throws the system's error where the
 * medium cannot be opened or read.
 */
export async function runPass(database: Database, job: PassJob, port: PassPort): Promise<PassState> {
  const medium = openMedium(job.medium)
  // What was opened is read decrypted; its checksum is that of the medium as it is.
  const closed = job.medium.opened.length > 0 ? openMedium({ ...job.medium, opened: [] }) : null
  const helpers = HelperThreads.for(medium.size, job.medium, () => ({
    text: jobFile('help-scan'),
    isSource: false,
  }))
  try {
    return await new PassRun(database, { job, port, medium, closed, helpers }).run()
  } catch (error) {
    if (error instanceof Replaced) return 'running'
    throw error
  } finally {
    helpers?.end()
    medium.close()
    closed?.close()
  }
}

class PassRun {
  private readonly job: PassJob
  private readonly port: PassPort
  private readonly helpers: Helpers | undefined
  private readonly claim: PassClaim
  private readonly listingId: number
  private readonly options: PassOptions
  private readonly notes: readonly PassNote[]
  private readonly image: PatientSource
  /** the medium as it is, of which a checksum is taken */
  private readonly bare: PatientSource
  private readonly volumes: ReturnType<typeof findVolumes>
  private readonly rows: FoundRows
  private readonly course: PassCourse
  private checksum: PassChecksum | null = null
  /** how many are wanted of each set, where that is known */
  private readonly targets: readonly { readonly id: string; readonly count: number }[]

  private lastTold = -Infinity
  private lastNoted: number
  /** everything reported so far, by its key */
  private readonly all = new Map<string, MediaItem>()
  /** what the next checkpoint stores */
  private readonly waiting = new Map<string, MediaItem>()
  private content: MediaItem[] = []
  private traces: number[] = []

  constructor(
    database: Database,
    {
      job,
      port,
      medium,
      closed,
      helpers,
    }: {
      job: PassJob
      port: PassPort
      medium: ByteSource
      closed: ByteSource | null
      helpers: Helpers | undefined
    },
  ) {
    this.job = job
    this.port = port
    this.helpers = helpers
    this.claim = new PassClaim(database, job.passId, job.claim)
    const pass = this.claim.pass()
    this.listingId = pass.listingId
    this.options = PassOptions.parse(JSON.parse(pass.options))
    this.notes = readNotes(database, job.passId)
    this.lastNoted = port.clock()
    this.course = new PassCourse(
      pass.progress === null ? null : PassProgress.parse(JSON.parse(pass.progress)),
      this.notes.at(-1)?.at ?? 0,
      () => port.clock(),
    )
    this.image = new PatientSource(
      watched(
        timed(
          medium,
          () => port.clock(),
          (ms) => (this.course.readMs += ms),
        ),
        (block) => {
          this.course.bytesRead += block.bytes.length
          if (this.checksum && !closed) this.checksum.lastBlock = block
        },
      ),
      this.notes.at(-1)?.unreadable,
    )
    this.bare = closed ? new PatientSource(closed) : this.image
    this.volumes = findVolumes(this.image, job.medium.opened)
    const row = database.select({ body: cases.body }).from(cases).where(eq(cases.id, pass.caseId)).get()!
    const ofCase = Case.parse(JSON.parse(row.body))
    this.targets = ofCase.wanted.flatMap((set) => (known(set.count) ? [{ id: set.id, count: set.count }] : []))
    this.rows = new FoundRows(
      database,
      this.listingId,
      { ofCase, isOwn: pass.isOwn, zone: readPlaybook(database).shop.zone },
      keepsOf(
        this.volumes.volumes.map(({ shape }) => shape),
        pass.stamp,
      ),
      this.image,
    )
  }

  async run(): Promise<PassState> {
    // The start is reported at once: the records of a slow medium take a while.
    this.port.tell(this.progress())
    if (this.options.takesChecksum) this.checksum = await PassChecksum.of(this.bare, this.notes.at(-1)?.checksum)
    const resume = resumeOf(this.notes)
    for (const item of resume?.items ?? []) if (this.rows.has(item)) this.all.set(item.key, item)
    const { pass, types, isWhole } = this.options
    const { helpers, volumes } = this
    const steps = scanImage(this.image, {
      pass,
      only: 'all',
      keepsRecords: true,
      formats: formatsOf(types),
      isWhole,
      volumes,
      ...(resume ? { resume } : {}),
      ...(helpers ? { helpers } : {}),
    })
    let isThroughRecords = false
    let step = steps.next()
    for (; !step.done; step = steps.next()) {
      if (step.value.pass !== 'quick' && !isThroughRecords) {
        isThroughRecords = true
        await this.write()
        // The previous listing is no longer needed once this one has all of its records.
        this.claim.transaction((handle) => carrySelection(handle, this.listingId))
      }
      this.take(step.value)
      const ended = (await this.checksumTo(step.value.at ?? 0)) ?? (await this.between())
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
    if (at !== null) this.course.at = at
    this.course.move({ phase: PHASES[pass], done, of })
  }

  private progress(): PassProgress {
    return this.course.progress(this.rows, this.image)
  }

  /** Everything that has to happen between two steps; a state where the job ends here. */
  private async between(): Promise<PassState | null> {
    const now = this.port.clock()
    if (now - this.lastNoted >= NOTE_MS || this.waiting.size >= NOTE_ITEMS) await this.write()
    if (now - this.lastTold >= TELL_MS) {
      this.lastTold = now
      this.port.tell(this.progress())
    }
    // A wish is a message, and messages arrive only between turns of the event loop.
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

  /** Writes a checkpoint: what was found since the last one, and how far the pass came, in one transaction. */
  private async write(): Promise<void> {
    const rows = await this.rows.rowsOf([...this.waiting.values()])
    const note: PassNote = {
      at: this.course.at,
      content: this.content,
      traces: this.traces,
      unreadable: this.image.unreadable().map(([offset, length]): [number, number] => [offset, length]),
      checksum: this.checksum?.save() ?? null,
    }
    this.claim.transaction((handle) => {
      this.rows.store(handle, rows)
      // Records are read again at once; only results that took long are noted.
      if (note.at > 0 || (note.checksum?.to ?? 0) > 0) writeNote(handle, this.job.passId, note)
      this.claim.set(handle, { progress: JSON.stringify(this.progress()) })
    })
    this.waiting.clear()
    this.content = []
    this.traces = []
    this.lastNoted = this.port.clock()
  }

  private leave(state: PassState, says: string, more: Partial<typeof passes.$inferInsert> = {}): PassState {
    this.claim.transaction((handle) => {
      this.claim.set(handle, { state, says, progress: JSON.stringify(this.progress()), ...more })
      if (state === 'enough' || state === 'done')
        handle.update(listings).set({ state: 'whole', says: '' }).where(eq(listings.id, this.listingId)).run()
      if (state === 'done') dropNotes(handle, this.job.passId)
    })
    return state
  }

  private async stopEarly(says: string): Promise<PassState> {
    await this.write()
    const all = [...this.all.values()]
    withoutContradictions(all)
    await this.settle(all)
    this.claim.transaction((handle) => carrySelection(handle, this.listingId))
    return this.leave('enough', says)
  }

  private async finish(items: MediaItem[]): Promise<PassState> {
    await this.write()
    await this.settle(items)
    this.claim.transaction((handle) => {
      this.rows.keepOnly(items)
      carrySelection(handle, this.listingId)
    })
    const ended = await this.checksumTo(this.image.size, 'checksum')
    return ended ?? this.leave('done', '', this.checksum ? { sha256: this.checksum.digest() } : {})
  }

  /** Stores the final state of every item. */
  private async settle(items: readonly MediaItem[]): Promise<void> {
    for (let at = 0; at < items.length; at += NOTE_ITEMS) {
      const some = items.slice(at, at + NOTE_ITEMS)
      for (const item of some) markUnreadable(this.image, item)
      const rows = await this.rows.rowsOf(some)
      this.claim.transaction((handle) => this.rows.store(handle, rows))
      await new Promise((done) => setImmediate(done))
    }
  }

  /** Takes the checksum up to `end` (bytes), areas in use included; a state where the job ends on the way. */
  private async checksumTo(end: number, phase = this.course.phase): Promise<PassState | null> {
    const { checksum } = this
    for (let steps = 1; checksum && checksum.to < end; steps++) {
      if (!checksum.step(end)) break
      if (phase !== 'records') this.course.move({ phase, done: checksum.to, of: this.image.size })
      const ended = steps % CHECKSUM_STEPS === 0 ? await this.between() : null
      if (ended) return ended
    }
    return null
  }
}
