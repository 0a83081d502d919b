import { describe, expect, it } from 'vitest'
import { FORMATS } from './formats/registry'
import { extensionOf, FILE_KINDS, kindOfMime, kindOfName } from './kinds'

describe('the table of file kinds', () => {
  it('names each extension and each media type once', () => {
    const extensions = FILE_KINDS.flatMap((kind) => kind.extensions)
    expect(new Set(extensions).size).toBe(extensions.length)
    expect(new Set(FILE_KINDS.map((kind) => kind.mime)).size).toBe(FILE_KINDS.length)
  })

  it('knows every extension of every format that is found by content', () => {
    for (const { id, extensions } of FORMATS)
      for (const extension of extensions)
        expect(kindOfName(`x.${extension}`).extensions, `${extension} of ${id}`).toContain(extension)
  })

  it.each([
    ['IMG_1.JPG', 'photos', 'image/jpeg'],
    ['raw.CR3', 'photos', 'image/x-raw'],
    ['still.avif', 'photos', 'image/avif'],
    ['tape.mpeg', 'videos', 'video/mpeg'],
    ['voice.aac', 'audio', 'audio/aac'],
    ['minutes.html', 'documents', 'text/html'],
    ['no-extension', 'files', 'application/octet-stream'],
  ])('tells of %s that it is among the %s', (name, type, mime) => {
    expect(kindOfName(name)).toMatchObject({ type, mime })
  })

  it('shows nothing in the browser itself that could run there', () => {
    const shownByBrowser = FILE_KINDS.filter(({ preview }) =>
      ['image', 'audio', 'video', 'pdf'].includes(preview ?? ''),
    ).map(({ mime }) => mime)
    expect(shownByBrowser).not.toContain('image/svg+xml')
    expect(shownByBrowser).not.toContain('text/html')
    expect(kindOfMime('application/x-unheard-of').preview).toBe(null)
  })

  it('takes neither a hidden file nor a long tail for an extension', () => {
    expect(extensionOf('.hidden')).toBe('')
    expect(extensionOf('a.tar.gz')).toBe('gz')
    expect(extensionOf('letter.of the eleventh')).toBe('')
  })
})
