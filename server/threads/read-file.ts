// Reads one file that a client brought, in a process of its own: previews, thumbnails, the date in a picture.
import sharp from 'sharp'
import { photoMade } from '../../core/scanning/made-of'
import { answerInProcess } from './answer-in-process'
import { contentOf } from './preview-content'
import type { FileOrder } from './messages'

const THUMB_PIXELS = 96
const SHOWN_PIXELS = 1600
/** Pictures with more pixels are not drawn: these take half a gigabyte. */
const MAX_PIXELS = 120_000_000

const drawing = (bytes: Uint8Array) =>
  sharp(bytes, { failOn: 'none', limitInputPixels: MAX_PIXELS, sequentialRead: true }).rotate()

answerInProcess<FileOrder>(async ({ ask, name }, bytes) => {
  if (ask === 'content') return contentOf(bytes, name)
  if (ask === 'made') return photoMade(bytes)
  if (ask === 'pixels') {
    const { width = 0, height = 0 } = await sharp(bytes, { failOn: 'none', limitInputPixels: false }).metadata()
    return { pixels: width * height, isDrawn: width * height <= MAX_PIXELS }
  }
  if (ask === 'thumb')
    return drawing(bytes).resize(THUMB_PIXELS, THUMB_PIXELS, { fit: 'cover' }).webp({ quality: 70 }).toBuffer()
  return drawing(bytes).resize(SHOWN_PIXELS, SHOWN_PIXELS, { fit: 'inside', withoutEnlargement: true }).png().toBuffer()
})
