import { readAttachment } from '../../../../handover/attachments'

/** The bytes of an attachment: pictures are shown, other papers are saved; nothing in them runs. */
export default defineRoute({ answers: null, may: 'see' }, async ({ event, param }) => {
  const { of, bytes } = await readAttachment(param('code'), Number(param('attachment')))
  setHeader(event, 'content-type', of.mime)
  setHeader(event, 'x-content-type-options', 'nosniff')
  setHeader(event, 'content-security-policy', "default-src 'none'; style-src 'unsafe-inline'; sandbox")
  const way = of.mime.startsWith('image/') ? 'inline' : 'attachment'
  setHeader(event, 'content-disposition', `${way}; filename="attachment-${of.id}"`)
  return bytes
})
