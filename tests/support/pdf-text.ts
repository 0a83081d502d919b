import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs'

/** The text of a PDF, page by page, without the spaces at which lines were broken. */
export async function pdfText(bytes: Uint8Array): Promise<string> {
  const document = await getDocument({ data: new Uint8Array(bytes), verbosity: 0 }).promise
  const pages: string[] = []
  for (let number = 1; number <= document.numPages; number++) {
    const { items } = await (await document.getPage(number)).getTextContent()
    pages.push(items.map((item) => ('str' in item ? item.str : '')).join(' '))
  }
  return plainText(pages.join(' '))
}

/** Text as it is compared: without any spaces. */
export const plainText = (text: string) => text.replace(/\s+/g, '')
