import { stopHandout } from '../../../../../shelf/hand-out'

/** Stops a copy that is under way. */
export default defineRoute({ answers: null, may: 'work' }, ({ param }) => {
  stopHandout(param('code'))
  return null
})
