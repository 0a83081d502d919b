import { promisify } from 'node:util'
import { brotliCompress, constants, gzip } from 'node:zlib'

/** Smaller answers are not compressed, in bytes. */
const MIN_BYTES = 1400
/** Speed rather than size: every answer is compressed anew. */
const QUICK = { params: { [constants.BROTLI_PARAM_QUALITY]: 4 } }
const [toBrotli, toGzip] = [promisify(brotliCompress), promisify(gzip)]

/**
 * Compresses JSON answers and pages where the client accepts that. None of them mixes secrets with a stranger's input.
 */
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

/** True for text: strings, and what becomes JSON. Bytes and streams are sent unchanged. */
function textOf(body: unknown): string | null {
  if (typeof body === 'string') return body
  if (body === null || typeof body !== 'object') return null
  const isPlain = Array.isArray(body) || Object.getPrototypeOf(body) === Object.prototype
  return isPlain ? JSON.stringify(body) : null
}
