import { describe, expect, it } from 'vitest'
import { emptyCase, type Case } from '../../core/cases/shape/case'
import { withFacts, type Change } from '../../core/cases/facts/facts'
import type { CaseAnswer, WaitingChanges } from '../../core/cases/facts/writing'
import { FactQueue, NEW_CASE } from './fact-queue'

type Fate = 'answer' | 'offline' | 'refused' | 'signed-out'

/** A server with one case, whose fate for the next requests is set by hand, and a machine's storage. */
function bench(fates: Fate[] = []) {
  let [stored, version]: [Case, number] = [{ ...emptyCase(), code: 'RL-1' }, 1]
  const sent: { code: string | null; base: number; facts: string[] }[] = []
  const told: unknown[] = []
  const storage = new Map<string, WaitingChanges>()
  const state = { isLocked: false, pauses: 0 }
  let held: (() => void)[] = []
  let isHeld = false
  const apply = (changes: readonly Change[]) => {
    const set = withFacts(stored, changes)
    if (!set.ok) throw 'refused'
    stored = set.changed
    version++
  }
  const answer = (): CaseAnswer => ({ version, case: stored, clashes: [] })
  const queue = new FactQueue({
    async send(code, base, changes) {
      sent.push({ code, base, facts: changes.map(({ fact }) => fact) })
      if (isHeld) await new Promise<void>((done) => held.push(done))
      const fate = fates.shift() ?? 'answer'
      if (fate !== 'answer') throw fate
      apply(changes)
      return answer()
    },
    judge: (error) => error as Exclude<Fate, 'answer'>,
    tell: (error) => told.push(error),
    read: (key) => storage.get(key) ?? null,
    keep: (key, waiting) =>
      waiting === null || waiting.changes.length === 0 ? storage.delete(key) : storage.set(key, waiting),
    isLocked: () => state.isLocked,
    pause: async () => void state.pauses++,
    changed: () => {},
  })
  return {
    queue,
    sent,
    told,
    storage,
    state,
    answer,
    others: apply,
    hold: () => (isHeld = true),
    release: () => {
      isHeld = false
      for (const go of held) go()
      held = []
    },
    open: () => queue.open('RL-1', async () => answer()),
    settled: () => new Promise((done) => setTimeout(done, 5)),
  }
}
const money = (is: number) => [{ fact: 'limits.money', is }]

describe('the queue of unsent facts', () => {
  it('shows a fact at once, keeps it on this machine, and forgets it once the server has it', async () => {
    const { queue, storage, settled, hold, release, open } = bench()
    await open()
    hold()
    expect(queue.set(money(95))).toEqual([])
    expect(queue.current.limits.money).toBe(95)
    expect(storage.get('RL-1')?.changes).toEqual(money(95))
    expect(queue.saving).toBe('saving')
    release()
    await settled()
    expect([queue.saving, queue.version, storage.size]).toEqual(['kept', 2, 0])
  })

  it('refuses a fact that is none and leaves everything as it was', async () => {
    const { queue, storage, sent, open } = bench()
    await open()
    expect(queue.set([{ fact: 'limits.money', is: -1 }])[0]!.path).toBe('limits.money')
    expect([queue.pending.length, storage.size, sent.length]).toEqual([0, 0, 0])
  })

  it('sends what was typed while a batch was under way in the next one, only the last value of each fact', async () => {
    const { queue, sent, settled, hold, release, open } = bench()
    await open()
    hold()
    queue.set(money(1))
    queue.set(money(2))
    queue.set([...money(3), { fact: 'title', is: 'Regatta' }])
    release()
    await settled()
    expect(sent.map(({ facts }) => facts)).toEqual([['limits.money'], ['limits.money', 'title']])
    expect(queue.stored.limits.money).toBe(3)
  })

  it('adds a part that the case does not have yet, once', async () => {
    const { queue, sent, settled, open } = bench()
    await open()
    queue.set([
      { fact: 'devices.d1.kind', is: 'phone' },
      { fact: 'devices.d1.make', is: 'Korvane 7' },
    ])
    await settled()
    expect(sent[0]!.facts).toEqual(['devices.d1', 'devices.d1.kind', 'devices.d1.make'])
  })

  it('tries again while the server is away, and loses nothing', async () => {
    const { queue, state, settled, open } = bench(['offline', 'offline'])
    await open()
    queue.set(money(95))
    await settled()
    expect([state.pauses, queue.saving, queue.stored.limits.money]).toEqual([2, 'kept', 95])
  })

  it('drops what the server refuses, reports it, and sends the rest', async () => {
    const { queue, told, settled, hold, release, open } = bench(['refused'])
    await open()
    hold()
    queue.set(money(95))
    queue.set([{ fact: 'title', is: 'Regatta' }])
    release()
    await settled()
    expect(told).toEqual(['refused'])
    expect([queue.stored.title, queue.stored.limits.money]).toEqual(['Regatta', 'unknown'])
  })

  it('waits while the page is locked or the session is over, and is sent after that', async () => {
    const { queue, sent, state, storage, settled, open } = bench(['signed-out'])
    await open()
    queue.set(money(95))
    await settled()
    expect([queue.pending.length, storage.size]).toEqual([1, 1])
    state.isLocked = true
    await queue.flush()
    expect(sent).toHaveLength(1)
    state.isLocked = false
    await queue.flush()
    expect([queue.stored.limits.money, storage.size]).toEqual([95, 0])
  })

  it('is taken up again after a reload, on the version that it was typed on', async () => {
    const { queue, storage, sent, others, settled, open } = bench()
    others([{ fact: 'title', is: 'Regatta' }])
    storage.set('RL-1', { base: 1, changes: money(95) })
    await open()
    expect(queue.current.limits.money).toBe(95)
    await settled()
    expect(sent[0]).toMatchObject({ base: 1 })
    expect(queue.stored).toMatchObject({ title: 'Regatta', limits: { money: 95 } })
  })

  it('leaves out what no longer fits: of a newer case than this one, or impossible by now', async () => {
    for (const waiting of [
      { base: 9, changes: money(95) },
      { base: 1, changes: [{ fact: 'nowhere', is: 1 }] },
    ]) {
      const { queue, storage, sent, settled, open } = bench()
      storage.set('RL-1', waiting)
      await open()
      await settled()
      expect([queue.pending.length, sent.length]).toEqual([0, 0])
    }
  })

  it('does not send the same again when somebody leaves the case while it is on its way', async () => {
    const { queue, storage, sent, settled, hold, release, open } = bench()
    await open()
    hold()
    queue.set(money(95))
    queue.begin()
    release()
    await settled()
    expect(storage.size).toBe(0)
    await open()
    await settled()
    expect([sent.length, queue.stored.limits.money]).toEqual([1, 95])
  })

  it('keeps the facts of a new case under its own name until it has a code', async () => {
    const { queue, storage, sent, settled, hold, release } = bench()
    queue.begin()
    hold()
    queue.set(money(95))
    expect([...storage.keys()]).toEqual([NEW_CASE])
    release()
    await settled()
    expect(sent[0]!.code).toBeNull()
    expect([queue.code, storage.size]).toEqual(['RL-1', 0])
  })

  it('takes in what others changed, under what waits, and asks where both set one fact', async () => {
    const { queue, others, answer, settled, state, open } = bench()
    await open()
    others([{ fact: 'title', is: 'Regatta' }])
    await queue.refresh(async () => answer())
    expect(queue.current.title).toBe('Regatta')
    state.isLocked = true
    queue.set(money(95))
    await settled()
    expect(queue.current).toMatchObject({ title: 'Regatta', limits: { money: 95 } })
    const clash = { fact: 'limits.money', yours: 95, theirs: 60, by: 'Suda' }
    queue.clashes = [clash]
    queue.settle(clash, false)
    expect(queue.clashes).toEqual([])
  })
})
