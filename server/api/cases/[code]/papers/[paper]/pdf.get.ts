import { paperOf } from '../../../../../handover/papers'
import { pdfOf } from '../../../../../handover/pdf'

export default defineRoute({ answers: null, may: 'see' }, async ({ event, param, person }) => {
  const code = param('code')
  const { sheet, size } = paperOf(code, Number(param('paper')), person.role)
  setHeader(event, 'content-type', 'application/pdf')
  const name = sheet.number.replace(/[^A-Za-z0-9-]+/g, '-')
  setHeader(event, 'content-disposition', `attachment; filename="${name}.pdf"`)
  return pdfOf(code, sheet, size)
})
