import { z } from 'zod'
import { TITLE, type ColumnNames } from '../columns'
import { line, when } from '../fields'
import { recordKind } from '../record-kind'

const URL: ColumnNames = ['url', 'uri', 'href', 'link', 'webaddress']
const FOLDER: ColumnNames = ['folder', 'path', 'parent', 'collection', 'category']
const ADDED: ColumnNames = ['added', 'dateadded', 'created', 'createdat', 'at', 'date']

const shape = z.object({
  kind: z.literal('bookmark'),
  title: line,
  url: line,
  folder: z.array(line).max(40).default([]),
  added: when,
})

/** A bookmark of a browser, with the folders that it is in, from the outermost. */
export const bookmark = recordKind(shape, {
  type: 'bookmarks',
  savedAs: 'html',
  title: (one) => one.title || one.url,
  subtitle: (one) => one.url,
  made: (one) => one.added,
  lines: (one) => [
    { as: 'figure', text: one.url },
    { as: 'soft', text: one.folder.join(' / ') },
  ],
  table: {
    holds: (columns) => columns.has(URL) && (columns.has(TITLE) || columns.isNamed(/bookmark|favou?rite/)),
    examples: [
      ['bookmarks', 'title', 'url', 'date_added'],
      ['favourites', 'link', 'folder'],
    ],
    read: (row) => ({
      title: row.text(TITLE),
      url: row.text(URL),
      folder: row.parts(FOLDER, /\//, 40),
      added: row.when(ADDED),
    }),
    isEmpty: (one) => one.url === '',
  },
  sample: {
    kind: 'bookmark',
    title: 'Water levels',
    url: 'https://levels.example/',
    folder: ['Canal'],
    added: '2026-11-07T17:20:00.000Z',
  },
})
