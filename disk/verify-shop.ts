import { existsSync } from 'node:fs'
import { join } from 'node:path'
import Sqlite from 'better-sqlite3'
import { printedHead, verifyChain } from '../core/history/chain'
import { DATABASE } from './database-file'
import { chainEntries, codeOfCase, entriesWritten } from './shop-history'
import { readShopKeys, SHOP_KEY } from './shop-key'

/** What the check of a shop's history came to: it fits, it does not, or it could not be checked. */
export type VerifyOutcome = { readonly fits: string } | { readonly broken: string } | { readonly faults: string }

/**
 * Checks the history of a shop in its data folder, which is opened read only, also while a server uses it. `head`: as
 * printed on a receipt or report; the history has to contain it.
 */
export function verifyCommand(folder: string, { head = null }: { readonly head?: string | null }): VerifyOutcome {
  const file = join(folder, DATABASE)
  if (!existsSync(file)) return { faults: `${folder}: holds no shop (${file} is not there)` }
  try {
    const keys = readShopKeys(folder)
    if (!keys) return { faults: `${folder}: the key of the history, ${SHOP_KEY}, is missing` }
    const client = new Sqlite(file, { readonly: true, fileMustExist: true })
    try {
      // One transaction: entries that a server writes meanwhile are in both figures or in neither.
      return client.transaction(() => {
        const expected = entriesWritten(client)
        const report = verifyChain(keys.chain, chainEntries(client), { expected, head })
        if (report.fits) {
          const { count } = report.head
          const earlier = report.earlier > 0 ? `, ${report.earlier} of them from before there was a chain` : ''
          return { fits: `${count} entries fit${earlier}. Head: ${printedHead(report.head)}` }
        }
        const { entry, why } = report
        const where = entry && `Entry ${entry.id} (${codeOfCase(client, entry.caseId) ?? 'no case'}, ${entry.at})`
        return { broken: where ? `${where} does not fit: ${why}.` : `The history does not fit: ${why}.` }
      })()
    } finally {
      client.close()
    }
  } catch (error) {
    return { faults: `${folder}: ${(error as Error).message}` }
  }
}
