import { benchOf } from '../../../../bench/answer'

export default defineRoute({ may: 'work' }, ({ param }) => benchOf(param('code')))
