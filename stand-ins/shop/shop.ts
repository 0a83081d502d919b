import { defaultPlaybook, type Playbook } from '../../core/playbook/playbook'

/** A two-bench shop beside a canal, in a market town that does not exist. */
export function demoPlaybook(): Playbook {
  return defaultPlaybook({ name: 'Sluice Lane Repairs', codePrefix: 'SL', zone: 'Europe/London', currency: 'GBP' })
}
