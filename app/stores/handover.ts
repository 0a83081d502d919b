import { HandoverAnswer } from '~~/core/handover/answers'
import { Attachment } from '~~/core/handover/attachment'
import { PaperMade } from '~~/core/handover/paper'
import type { Signature } from '~~/core/handover/signature'
import type { HandoverInput } from '~~/core/handover/writes'

/** Pictures larger than this in either direction are made smaller before they are sent; in pixels. */
const MOST_PIXELS = 2000

/** What happens between shop and client in the open case: things done, pictures, signatures and sheets. */
export const useHandoverStore = defineStore('handover', () => {
  const store = useOpenCaseStore()
  const answer = shallowRef<HandoverAnswer | null>(null)
  const isBusy = ref(false)
  const path = (rest: string) => `/api/cases/${encodeURIComponent(store.code ?? '')}${rest}`

  async function load() {
    try {
      answer.value = await api(HandoverAnswer, 'GET', path('/hand-over'))
    } catch (error) {
      tellFailure(error)
    }
  }

  // Nothing of one case is shown in another.
  watch(
    () => store.code,
    () => (answer.value = null),
  )

  let last: Promise<unknown> = Promise.resolve()

  /** Does one thing after the other, so that none is lost while another is sent; true where it was accepted. */
  function act(write: HandoverInput): Promise<boolean> {
    const own = last.then(async () => {
      isBusy.value = true
      try {
        const isDone = await store.handOver(write)
        if (isDone) await load()
        return isDone
      } finally {
        isBusy.value = false
      }
    })
    last = own.catch(() => undefined)
    return own
  }

  /** Runs a request and returns its result; null where it failed, which is said. */
  async function asking<Result>(work: () => Promise<Result>): Promise<Result | null> {
    isBusy.value = true
    try {
      return await work()
    } catch (error) {
      tellFailure(error)
      return null
    } finally {
      isBusy.value = false
    }
  }

  const sign = (signature: Signature, name: string) =>
    asking(async () => (await api(Attachment, 'POST', path('/attachments/signature'), { signature, name })).id)

  /** Sends a picture or paper; the number that it got. */
  const attach = (file: File, kind: 'photo' | 'paper', part = '') =>
    asking(async () => {
      const query = new URLSearchParams({ kind, part, name: file.name.slice(0, 120) || 'picture' })
      const { id } = await api(Attachment, 'POST', path(`/attachments?${query}`), await smaller(file))
      await load()
      return id
    })

  const make = (kind: 'options' | 'report' | 'annex') =>
    asking(async () => {
      const { id } = await api(PaperMade, 'POST', path('/papers'), { kind })
      await Promise.all([load(), store.refresh()])
      return id
    })

  return { answer, isBusy, load, act, sign, attach, make, path }
})

/** A picture without its camera's notes on place and time, and no larger than is needed; any other file as it is. */
async function smaller(file: File): Promise<Blob> {
  if (!file.type.startsWith('image/')) return file
  const picture = await createImageBitmap(file).catch(() => null)
  if (!picture) return file
  const scale = Math.min(1, MOST_PIXELS / Math.max(picture.width, picture.height))
  const canvas = new OffscreenCanvas(Math.round(picture.width * scale), Math.round(picture.height * scale))
  canvas.getContext('2d')!.drawImage(picture, 0, 0, canvas.width, canvas.height)
  picture.close()
  return canvas.convertToBlob({ type: 'image/jpeg', quality: 0.85 })
}
