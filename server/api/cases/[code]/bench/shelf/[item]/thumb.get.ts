import { shelfThumb } from '../../../../../../handover/back'

export default defineRoute({ answers: null, may: 'work', isBackground: true }, async ({ event, param }) => {
  const thumb = await shelfThumb(param('code'), Number(param('item')))
  setResponseHeader(event, 'content-type', 'image/webp')
  return Buffer.from(thumb)
})
