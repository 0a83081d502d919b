/** The whole playbook as a JSON file. */
export default defineRoute({ answers: null, may: 'playbook' }, ({ event, playbook }) => {
  setResponseHeaders(event, {
    'content-type': 'application/json; charset=utf-8',
    'content-disposition': 'attachment; filename="playbook.json"',
    'x-content-type-options': 'nosniff',
  })
  return `${JSON.stringify(playbook, null, 2)}\n`
})
