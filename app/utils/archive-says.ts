import type { ArchiveFacts } from '~~/core/bench/bench'
import { typesWords } from '~~/core/bench/words'

/** What a backup in a folder says about itself, on one line. */
export function archiveSays(archive: ArchiveFacts, moment: (iso: string) => string): string {
  return [
    archive.taken ? moment(archive.taken) : 'no manifest',
    typesWords(archive.types),
    sizeWords(archive.bytes),
    archive.isEncrypted ? 'encrypted' : '',
  ]
    .filter((words) => words !== '')
    .join(' · ')
}
