import { Playbook } from '../../../core/playbook/playbook'
/** The playbook that plans are made with; the browser plans with the same one while a case is typed. */
export default defineRoute({ answers: Playbook, may: 'see' }, ({ playbook }) => playbook)
