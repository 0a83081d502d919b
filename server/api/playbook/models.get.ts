import { stringify } from 'csv-stringify/sync'
import { MODEL_COLUMNS, modelLines } from '../../../core/playbook/model-list'

/** The shop’s makers and models as CSV. */
export default defineRoute({ answers: null, may: 'playbook' }, ({ event, playbook }) => {
  setResponseHeaders(event, {
    'content-type': 'text/csv; charset=utf-8',
    'content-disposition': 'attachment; filename="models.csv"',
    'x-content-type-options': 'nosniff',
  })
  return stringify([MODEL_COLUMNS, ...modelLines(playbook.shop.models)], { escape_formulas: true, bom: true })
})
