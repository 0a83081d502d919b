import type { HandoutLayout } from '../bench/shelf'
import { countWords } from '../cases/telling/words'
import type { Wholeness } from '../files/wholeness'

/** A recovered file in the list for the client. */
export interface HandedFile {
  readonly path: string
  readonly whole: Wholeness
}

/**
 * What a client reads first in what was handed over: how many files there are, which are damaged or could not be checked,
 * and how to check that nothing changed on the way.
 */
export function readMe(
  code: string,
  shop: string,
  files: readonly HandedFile[],
  layout: HandoutLayout = 'bag',
): string {
  const of = (whole: Wholeness) => files.filter((file) => file.whole === whole)
  const [damaged, unverified] = [of('partial'), of('unverified')]
  const list = (title: string, some: readonly HandedFile[]) =>
    some.length === 0 ? [] : ['', title, ...some.map(({ path }) => `  ${path.replace(/[\r\n]+/g, ' ')}`)]
  return [
    `Recovered files of case ${code}${shop ? `, ${shop}` : ''}`,
    '',
    `${countWords(files.length, 'files')}${layout === 'bag' ? ', in the folder “data”' : ''}.`,
    `Whole: ${of('intact').length}. Not verified: ${unverified.length}. Damaged: ${damaged.length}.`,
    '',
    'Not verified means that the kind of file has no checks of its own. Most of them are as they were.',
    'Do not open files that you do not recognise: they were recovered as they were, and not checked for viruses.',
    '',
    'To check that nothing changed on the way, run this in this folder:',
    `  sha256sum -c ${layout === 'bag' ? 'manifest-sha256.txt' : 'SHA256SUMS'}`,
    ...list('Damaged, only part of the content is there:', damaged),
    ...list('Not verified:', unverified),
    '',
  ].join('\n')
}
