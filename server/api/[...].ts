import { notFound } from '../failure'

/** Any other address below /api, told in the same shape as all errors. */
export default defineRoute({ answers: null, may: 'see' }, () => {
  throw notFound('such address')
})
