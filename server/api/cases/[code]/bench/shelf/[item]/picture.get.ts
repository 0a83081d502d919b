import { shelfPicture } from '../../../../../../handover/back'

/** A picture on the shelf, drawn anew: nothing of the file itself reaches the browser. */
export default defineRoute({ answers: null, may: 'work', isBackground: true }, async ({ event, param }) => {
  const picture = await shelfPicture(param('code'), Number(param('item')))
  setResponseHeaders(event, { 'content-type': 'image/png', 'x-content-type-options': 'nosniff' })
  return Buffer.from(picture)
})
