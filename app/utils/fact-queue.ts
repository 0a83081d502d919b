import { emptyCase, type Case } from '~~/core/cases/shape/case'
import type { Fault } from '~~/core/cases/shape/faults'
import { replaced, withFacts, withMissingParts, type Change } from '~~/core/cases/facts/facts'
import type { Clash } from '~~/core/cases/facts/merge'
import type { CaseAnswer, WaitingChanges } from '~~/core/cases/facts/writing'

/** The facts of a case that has no code yet wait under this name. */
export const NEW_CASE = 'new'
const RETRY_MS = 3000

/** `kept`: the server has everything. `offline`: it does not answer, and sending is repeated until it does. */
export type Saving = 'kept' | 'saving' | 'offline'

/** What the queue needs of the page: the server, this machine's storage, and whether it may send. */
export interface QueuePort {
  /** sends changes; `code` is null for a new case. Throws what `judge` understands */
  send(code: string | null, base: number, changes: readonly Change[]): Promise<CaseAnswer>
  /** what kind of failure it was: the server is away, the session is over, or the server refused */
  judge(error: unknown): 'offline' | 'signed-out' | 'refused'
  /** shows a refusal to the person who typed */
  tell(error: unknown): void
  read(key: string): WaitingChanges | null
  /** stores what waits on this machine for the person who is signed in; null removes it */
  keep(key: string, waiting: WaitingChanges | null): void
  /** nothing is sent while the page is locked */
  isLocked(): boolean
  pause(ms: number): Promise<void>
  /** the queue has changed */
  changed(): void
}

/**
 * The facts of the open case. They are shown at once, wait in this machine's storage until the server has them, and are
 * sent batch by batch, so that nothing typed is lost.
 */
export class FactQueue {
  code: string | null = null
  version = 0
  /** the case as the server last gave it */
  stored: Case = emptyCase()
  /** facts that the server does not have yet */
  pending: readonly Change[] = []
  clashes: readonly Clash[] = []
  saving: Saving = 'kept'
  /** the version on which the first waiting change was made; the server merges from there */
  private base = 0
  private isSending = false
  private visit = 0

  constructor(private readonly port: QueuePort) {}

  private get key(): string {
    return this.code ?? NEW_CASE
  }

  /** the case as shown: the server's last answer with what waits on top */
  get current(): Case {
    if (this.pending.length === 0) return this.stored
    const set = withFacts(this.stored, this.pending)
    return set.ok ? set.changed : this.stored
  }

  /** Opens a case that has no code yet, with what waits for one on this machine. */
  begin(): void {
    this.visit++
    this.code = null
    this.version = 0
    this.stored = emptyCase()
    this.clashes = []
    this.saving = 'kept'
    this.restore()
    this.port.changed()
  }

  /** Opens a case that the server answers, unless another is opened first. False where that happened. */
  async open(code: string, load: () => Promise<CaseAnswer>): Promise<boolean> {
    const own = ++this.visit
    const answer = await load()
    if (own !== this.visit) return false
    this.code = code
    this.clashes = []
    this.take(answer)
    this.saving = 'kept'
    this.restore()
    this.port.changed()
    return true
  }

  /** The case of an answer, with what waits on top. */
  take({ version, case: stored }: CaseAnswer): void {
    this.version = version
    this.stored = stored
    this.port.changed()
  }

  /** Sets facts; where they are wrong, returns why and leaves the case unchanged. */
  set(changes: readonly Change[]): Fault[] {
    const next = replaced(this.pending, withMissingParts(this.current, changes))
    const tried = withFacts(this.stored, next)
    if (!tried.ok) return tried.faults
    this.keepPending(next)
    void this.flush()
    return []
  }

  /** Sends what waits, batch by batch. */
  async flush(): Promise<void> {
    if (this.isSending || this.port.isLocked()) return
    this.isSending = true
    const own = this.visit
    while (this.pending.length > 0 && own === this.visit && !this.port.isLocked()) {
      if (this.saving !== 'offline') this.saving = 'saving'
      this.port.changed()
      if (!(await this.sendBatch(own))) break
    }
    this.isSending = false
    if (this.pending.length > 0 && own !== this.visit) void this.flush()
  }

  /** False where sending ends for now. */
  private async sendBatch(own: number): Promise<boolean> {
    const [batch, key] = [this.pending, this.key]
    const kept = JSON.stringify(this.port.read(key))
    try {
      const answer = await this.port.send(this.code, this.base, batch)
      if (own === this.visit) this.sent(batch, answer)
      // After leaving the case and coming back, the same batch must not be sent twice.
      else if (JSON.stringify(this.port.read(key)) === kept) this.port.keep(key, null)
      return true
    } catch (error) {
      return this.survived(error, batch)
    }
  }

  private sent(batch: readonly Change[], answer: CaseAnswer): void {
    const rest = this.pending.filter((change) => !batch.includes(change))
    this.version = answer.version
    this.stored = answer.case
    this.base = answer.version
    if (this.code === null) {
      this.port.keep(NEW_CASE, null)
      this.code = answer.case.code
    }
    this.clashes = [
      ...this.clashes.filter(({ fact }) => !answer.clashes.some((clash) => clash.fact === fact)),
      ...answer.clashes,
    ]
    this.saving = rest.length > 0 ? 'saving' : 'kept'
    this.keepPending(rest)
  }

  /**
   * True where sending continues after a failure: later where the server is away, without the batch where it refused.
   */
  private async survived(error: unknown, batch: readonly Change[]): Promise<boolean> {
    const why = this.port.judge(error)
    // The page locks; what waits is sent once the same person has signed in again.
    if (why === 'signed-out') return false
    if (why === 'offline') {
      this.saving = 'offline'
      this.port.changed()
      await this.port.pause(RETRY_MS)
      return true
    }
    this.saving = 'kept'
    this.keepPending(this.pending.filter((change) => !batch.includes(change)))
    this.port.tell(error)
    return true
  }

  /**
   * Takes in what others have changed since `version`; what waits stays on top. `load` returns null where there is
   * nothing newer.
   */
  async refresh(load: () => Promise<CaseAnswer | null>): Promise<void> {
    if (this.code === null || this.isSending || this.port.isLocked()) return
    const own = this.visit
    try {
      const answer = await load()
      if (own === this.visit && answer && answer.version > this.version && !this.isSending) this.take(answer)
      if (this.saving === 'offline' && this.pending.length === 0) this.saving = 'kept'
    } catch (error) {
      if (this.port.judge(error) === 'offline') this.saving = 'offline'
    }
    this.port.changed()
  }

  /** Settles a fact that two people set differently: theirs is kept, or one's own is set again. */
  settle(clash: Clash, isMine: boolean): void {
    this.clashes = this.clashes.filter(({ fact }) => fact !== clash.fact)
    this.port.changed()
    if (isMine) this.set([{ fact: clash.fact, is: clash.yours }])
  }

  private keepPending(changes: readonly Change[]): void {
    if (this.pending.length === 0) this.base = this.version
    this.pending = changes
    this.port.keep(this.key, { base: this.base, changes: [...changes] })
    this.port.changed()
  }

  /** What this person left unsent on this machine; changes that no longer fit are left out. */
  private restore(): void {
    this.pending = []
    const kept = this.port.read(this.key)
    if (!kept || kept.base > this.version || !withFacts(this.stored, kept.changes).ok) return
    this.base = kept.base
    this.pending = kept.changes
    void this.flush()
  }
}
