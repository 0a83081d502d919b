import { toRaw } from 'vue'
import type { FullPlan } from '~~/core/ranking/situation/plan-shape'
import type { PlanReply, PlanRequest } from '../workers/plan.worker'

/** The questions and the sensitivity wait for a pause in the typing of so many ms. */
const PAUSE_MS = 150

/** One worker that is asked for the newest plan only: while it computes one, later requests replace each other. */
function planWorker(depth: PlanRequest['depth'], take: (reply: PlanReply) => void) {
  const worker = new Worker(new URL('../workers/plan.worker.ts', import.meta.url), { type: 'module' })
  let waiting: PlanRequest | null = null
  let isBusy = false
  let lastBase: PlanRequest['base'] = null
  const send = (request: PlanRequest) => {
    isBusy = true
    const base = request.base === lastBase ? null : request.base
    lastBase = request.base
    worker.postMessage({ ...request, depth, base })
  }
  const goOn = () => {
    isBusy = false
    const next = waiting
    waiting = null
    if (next) send(next)
  }
  worker.onmessage = ({ data }: MessageEvent<PlanReply>) => {
    take(data)
    goOn()
  }
  // A case that cannot be planned must not prevent the plan of the next change.
  worker.onerror = goOn
  return {
    ask: (request: PlanRequest) => {
      if (isBusy) waiting = request
      else send(request)
    },
    end: () => worker.terminate(),
  }
}

/**
 * The plan of the open case, computed in web workers by the same core as on the server after each change of a fact: the
 * order at once, the questions and the sensitivity once typing pauses.
 */
export function usePlan(now: Ref<number>) {
  const playbooks = usePlaybookStore()
  const store = useOpenCaseStore()
  // If they do not load, the page says so; the plan is computed once they are here.
  void playbooks.need().catch(tellFailure)
  const full = shallowRef<FullPlan | null>(null)
  let asked = 0
  let base: PlanRequest['base'] = null
  let last: { words: string; base: PlanRequest['base'] } = { words: '', base: null }
  let pause: ReturnType<typeof setTimeout> | undefined
  const order = planWorker('order', (reply) => {
    // Old questions stay until the new ones are ready, so that the card does not move away under a key.
    const { questions, sensitivity } = full.value?.plan ?? { questions: [], sensitivity: null }
    full.value = { ...reply.full, plan: { ...reply.full.plan, questions, sensitivity } }
  })
  const whole = planWorker('whole', (reply) => {
    if (reply.id === asked) full.value = reply.full
  })
  watch(
    [() => store.current, () => playbooks.playbook, () => playbooks.evidence, now],
    ([ofCase, playbook, evidence, time]) => {
      if (!playbook || !evidence) return
      if (base?.playbook !== toRaw(playbook) || base.evidence !== toRaw(evidence))
        base = { playbook: toRaw(playbook), evidence: toRaw(evidence) }
      // The server's answer to a change is the case that the page shows already.
      const words = JSON.stringify([ofCase, time])
      if (words === last.words && base === last.base) return
      last = { words, base }
      const request: PlanRequest = { id: ++asked, depth: 'order', ofCase: toRaw(ofCase), now: time, base }
      order.ask(request)
      clearTimeout(pause)
      pause = setTimeout(() => whole.ask(request), PAUSE_MS)
    },
    { immediate: true },
  )
  onScopeDispose(() => {
    clearTimeout(pause)
    order.end()
    whole.end()
  })
  return full
}
