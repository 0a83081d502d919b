import { dropArriving } from '../../../../../../steps/batches'

/** A batch that has not arrived completely. */
export default defineRoute({ answers: null, may: 'work' }, async ({ param }) => {
  await dropArriving(param('code'), param('batch'))
  return null
})
