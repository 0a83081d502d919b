import type { SheetDocument } from '../../core/handover/document'
import type { SheetSize } from '../../core/playbook/printing'
import { Failure } from '../failure'
import { ProcessLine } from '../threads/process-line'
import { readAttachment } from './attachments'
import type { PdfOrder } from './make-pdf'
import { logFault } from '../log-fault'

/** A long annex takes a few seconds. */
const making = new ProcessLine('make-pdf', { ms: 60_000, bytes: 700 << 20 })

/** A sheet as a PDF file. A signature whose file is gone is left out: its line stays empty. */
export async function pdfOf(code: string, sheet: SheetDocument, size: SheetSize): Promise<Buffer> {
  const signatures = new Map<number, string>()
  for (const block of sheet.blocks) {
    if (block.kind !== 'sign' || block.signature === null) continue
    const drawn = await readAttachment(code, block.signature).catch(() => null)
    if (drawn?.of.mime === 'image/svg+xml') signatures.set(block.signature, drawn.bytes.toString('utf8'))
  }
  try {
    return Buffer.from(await making.ask<Uint8Array>({ sheet, size, signatures } satisfies PdfOrder))
  } catch (error) {
    logFault(error)
    throw new Failure('broken', 'The PDF could not be made. Print the sheet from the browser instead.')
  }
}
