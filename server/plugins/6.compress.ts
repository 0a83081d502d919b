import { promisify } from 'node:util'
import { brotliCompress, constants, gzip } from 'node:zlib'

/** Less than that is not worth it, in bytes. */
const MIN_BYTES = 1400
/** Quick rather than small: answers are made anew each time. */
const QUICK = { params: { [constants.BROTLI_PARAM_QUALITY]: 4 } }
const [toBrotli, toGzip] = [promisify(brotliCompress), promisify(gzip)]

/** Answers of JSON and pages go out compressed where the reader takes that. Nothing secret that a stranger could probe stands in one. */
export default defineNitroPlugin((nitro) => {
  nitro.hooks.hook('beforeResponse', async (event, response) => {
    const text = textOf(response.body)
    if (text === null || event.method === 'HEAD' || getResponseHeader(event, 'content-encoding')) return
    const accepted = String(getRequestHeader(event, 'accept-encoding') ?? '')
    const encoding = /\bbr\b/.test(accepted) ? 'br' : /\bgzip\b/.test(accepted) ? 'gzip' : null
    if (typeof response.body !== 'string' && !getResponseHeader(event, 'content-type'))
      setResponseHeader(event, 'content-type', 'application/json; charset=utf-8')
    const bytes = Buffer.from(text)
    if (encoding === null || bytes.length < MIN_BYTES) return
    response.body = await (encoding === 'br' ? toBrotli(bytes, QUICK) : toGzip(bytes))
    setResponseHeader(event, 'content-encoding', encoding)
    appendResponseHeader(event, 'vary', 'accept-encoding')
  })
})

/** What is sent as text: strings, and what becomes JSON. Bytes and streams stay as they are. */
function textOf(body: unknown): string | null {
  if (typeof body === 'string') return body
  if (body === null || typeof body !== 'object') return null
  const isPlain = Array.isArray(body) || Object.getPrototypeOf(body) === Object.prototype
  return isPlain ? JSON.stringify(body) : null
}
