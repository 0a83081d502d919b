import { notFound } from '../failure'

/** Any other address below /api: an error in the shape of all errors. */
export default defineRoute({ answers: null, may: 'see' }, () => {
  throw notFound('such address')
})
