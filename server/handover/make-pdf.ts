// Makes PDF files in a process beside the server. Fonts are read from one folder; nothing else is, and nothing is fetched.
import { existsSync } from 'node:fs'
import { dirname, join, resolve, sep } from 'node:path'
import pdfmake from 'pdfmake'
import { answerInProcess } from '../threads/answer-in-process'
import { pdfDefinition } from './pdf-definition'
import type { SheetSize } from '../../core/playbook/printing'
import type { SheetDocument } from '../../core/handover/document'

export interface PdfOrder {
  readonly sheet: SheetDocument
  readonly size: SheetSize
  readonly signatures: ReadonlyMap<number, string>
}

/** The fonts are beside the jobs of the built server, or with their package during development. */
const fonts = [resolve(dirname(process.argv[1] ?? ''), '../fonts'), resolve('node_modules/pdfmake/fonts/Roboto')].find(
  (folder) => existsSync(folder),
)
if (!fonts) throw new Error('The fonts for PDF files are missing; build the app again.')

const face = (name: string) => join(fonts, `Roboto-${name}.ttf`)
pdfmake.setFonts({
  Roboto: { normal: face('Regular'), bold: face('Medium'), italics: face('Italic'), bolditalics: face('MediumItalic') },
})
pdfmake.setUrlAccessPolicy(() => false)
pdfmake.setLocalAccessPolicy((path) => resolve(path).startsWith(fonts + sep))

answerInProcess<PdfOrder>(async ({ sheet, size, signatures }) =>
  pdfmake.createPdf(pdfDefinition(sheet, size, signatures)).getBuffer(),
)
