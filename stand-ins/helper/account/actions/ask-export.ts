import { need, NO_EFFECTS, type ActionRule } from '../../rules'
import { keep, type Account } from '../../things'

export const askExport: ActionRule<Account> = {
  title: 'Ask for a data export',
  says: 'Everything that was posted or sent, in open formats; comes later, by a link that ends after some days.',
  wantsFrom: false,
  isOffered: (account) => account.keeps.some((one) => one.id === 'posts'),
  needs: (account) => [need('account', account.stage === 'in', 'The account is signed in.')],
  effects: () => NO_EFFECTS,
  minutes: (account) => account.exports.hours * 60,
  advance: (account, _, task) => {
    const wanted = task.parameters.types
    const posts = account.keeps.find((one) => one.id === 'posts')
    const items = (posts?.items ?? []).filter((one) => wanted.length === 0 || wanted.includes(one.type))
    account.keeps.push(
      keep({
        id: `export.${task.id}`,
        kind: 'export',
        title: 'Data export',
        types:
          [...new Set(items.map((one) => one.type))].length > 0
            ? [...new Set(items.map((one) => one.type))]
            : ['files'],
        items: items.map((one) => ({ ...one })),
        asOf: new Date(task.ends).toISOString(),
      }),
    )
    account.revision++
    task.says = `The link has come; it ends ${account.exports.linkDays} days later.`
  },
}
