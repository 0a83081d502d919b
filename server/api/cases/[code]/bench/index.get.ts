import { benchOf } from '../../../../bench/answer'

export default defineRoute({}, ({ param }) => benchOf(param('code')))
