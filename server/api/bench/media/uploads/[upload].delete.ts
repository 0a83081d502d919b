import { dropUpload, uploads } from '../../../../steps/uploads'

export default defineRoute({ may: 'work' }, async ({ param }) => {
  await dropUpload(param('upload'))
  return { uploads: await uploads() }
})
