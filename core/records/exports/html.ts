import { recordTitle, type RecordOf } from '../record'
import { only, type RecordFormat } from './record-format'

/** The page of nested lists that browsers write and read as bookmarks. */
export const html: RecordFormat = {
  id: 'html',
  title: 'HTML',
  extension: 'html',
  mime: 'text/html',
  kinds: ['bookmark'],
  write: (records) => bookmarkPage(only(records, 'bookmark')),
}

const escaped = (text: string) => text.replace(/[&<>"]/g, (letter) => `&#${letter.charCodeAt(0)};`)

function bookmarkPage(bookmarks: readonly RecordOf<'bookmark'>[]): string {
  const folders = new Map<string, RecordOf<'bookmark'>[]>()
  for (const one of bookmarks) {
    const folder = one.folder.join(' / ')
    folders.set(folder, [...(folders.get(folder) ?? []), one])
  }
  const link = (one: RecordOf<'bookmark'>) => {
    const added = one.added ? ` ADD_DATE="${Math.floor(Date.parse(one.added) / 1000)}"` : ''
    return `<DT><A HREF="${escaped(one.url)}"${added}>${escaped(recordTitle(one))}</A>`
  }
  const lists = [...folders].map(([folder, own]) =>
    folder === ''
      ? own.map(link).join('\n')
      : `<DT><H3>${escaped(folder)}</H3>\n<DL><p>\n${own.map(link).join('\n')}\n</DL><p>`,
  )
  return `<!DOCTYPE html>\n<META HTTP-EQUIV="Content-Type" CONTENT="text/html; charset=UTF-8">\n<TITLE>Bookmarks</TITLE>\n<H1>Bookmarks</H1>\n<DL><p>\n${lists.join('\n')}\n</DL><p>\n`
}
