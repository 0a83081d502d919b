import { dropUpload, uploads } from '../../../../media/uploads'

export default defineRoute({ may: 'work' }, async ({ param }) => {
  await dropUpload(param('upload'))
  return { uploads: await uploads() }
})
