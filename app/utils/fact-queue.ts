import { emptyCase, type Case } from '~~/core/cases/shape/case'
import type { Fault } from '~~/core/cases/shape/faults'
import { replaced, withFacts, withMissingParts, type Change } from '~~/core/cases/facts/facts'
import type { Clash } from '~~/core/cases/facts/merge'
import type { CaseAnswer, WaitingChanges } from '~~/core/cases/facts/writing'

/** Under this name the facts of a case wait that has no code yet. */
export const NEW_CASE = 'new'
const RETRY_MS = 3000

/** `kept`: the server has everything. `offline`: it does not answer, and sending is tried again and again. */
export type Saving = 'kept' | 'saving' | 'offline'

/** What the queue needs of the page: the server, this machine's storage, and whether it may send. */
export interface QueuePort {
  /** sends changes; `code` is null for a new case. Throws what `judge` understands */
  send(code: string | null, base: number, changes: readonly Change[]): Promise<CaseAnswer>
  /** what of a failure: the server is away, the session is over, or the server refused */
  judge(error: unknown): 'offline' | 'signed-out' | 'refused'
  /** says a refusal to whoever typed */
  tell(error: unknown): void
  read(key: string): WaitingChanges | null
  /** keeps what waits on this machine; null removes it. Belongs to whoever is signed in */
  keep(key: string, waiting: WaitingChanges | null): void
  /** nothing is sent while the page is locked */
  isLocked(): boolean
  pause(ms: number): Promise<void>
  /** anything of the queue has changed */
  changed(): void
}

/**
 * The facts of the open case. They show at once, wait in this machine's storage until the server has them, and are sent one
 * batch after the other, so that nothing typed is lost.
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
  /** the version that the first of the waiting changes was made on; what others set since is merged from there */
  private base = 0
  private isSending = false
  private visit = 0

  constructor(private readonly port: QueuePort) {}

  private get key(): string {
    return this.code ?? NEW_CASE
  }

  /** the case as it stands on the screen: what the server gave and what waits to be sent */
  get current(): Case {
    if (this.pending.length === 0) return this.stored
    const set = withFacts(this.stored, this.pending)
    return set.ok ? set.changed : this.stored
  }

  /** Begins a case that has no code yet, with what waits of one on this machine. */
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

  /** Opens a case as the server answers it, unless another is opened meanwhile. False where that came first. */
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

  /** The case as an answer gives it; what waits stays on top. */
  take({ version, case: stored }: CaseAnswer): void {
    this.version = version
    this.stored = stored
    this.port.changed()
  }

  /** Sets facts, or answers what is wrong with them and leaves the case as it was. */
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
      // Whoever has left the case meanwhile must not send the same again on coming back.
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

  /** True where sending goes on after a failure: later where the server is away, without the batch where it refused. */
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

  /** Takes in what others have changed since `version`; what waits here stays on top of it. `load` answers null where there is nothing newer. */
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

  /** Settles a fact that two people set differently: theirs stands, or one's own is set again. */
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

  /** What waited of this person when this machine was last at the case; left out where it no longer fits. */
  private restore(): void {
    this.pending = []
    const kept = this.port.read(this.key)
    if (!kept || kept.base > this.version || !withFacts(this.stored, kept.changes).ok) return
    this.base = kept.base
    this.pending = kept.changes
    void this.flush()
  }
}
