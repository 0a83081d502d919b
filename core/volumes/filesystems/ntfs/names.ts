import { FILE_NAME, MFT_RECORD, TYPE } from './layout'
import { utf16, viewOf, type Attribute } from './record'

/** The deepest path that is followed; a deeper one loops. */
const MAX_DEPTH = 128
/** The namespace of DOS names (8.3); the Win32 name is reported instead. */
const DOS_NAMESPACE = 2

/** A name of a record, and its directory. */
export interface Name {
  readonly name: string
  readonly parent: number
  readonly parentSequence: number
}

export interface KnownFolder {
  readonly name: Name
  readonly sequence: number
  readonly isInUse: boolean
}

export interface Folder {
  readonly number: number
  readonly sequence: number
}

/** The directories down to a file. Where a directory's record was reused, the path begins there anew. */
export function pathOf(name: Name, folders: ReadonlyMap<number, KnownFolder>): string {
  const names = [name.name]
  let { parent, parentSequence } = name
  for (let depth = 0; parent !== MFT_RECORD.root; depth++) {
    const folder = folders.get(parent)
    const isSame =
      folder && (folder.sequence === parentSequence || (!folder.isInUse && folder.sequence === parentSequence + 1))
    if (!isSame || depth > MAX_DEPTH) {
      names.unshift('lost folder')
      break
    }
    names.unshift(folder.name.name)
    parentSequence = folder.name.parentSequence
    parent = folder.name.parent
  }
  return names.join('/')
}

/** The names of a record, the long one first. */
export function namesOf(attributes: readonly Attribute[]): Name[] {
  const names: (Name & { namespace: number })[] = []
  for (const { type, content } of attributes) {
    if (type !== TYPE.fileName || !content || content.length < FILE_NAME.name) continue
    const view = viewOf(content)
    names.push({
      name: utf16(view, FILE_NAME.name, content[FILE_NAME.length]!),
      parent: view.getUint32(FILE_NAME.parent, true) + view.getUint16(FILE_NAME.parent + 4, true) * 2 ** 32,
      parentSequence: view.getUint16(FILE_NAME.parent + 6, true),
      namespace: content[FILE_NAME.namespace]!,
    })
  }
  return names.sort((a, b) => Number(a.namespace === DOS_NAMESPACE) - Number(b.namespace === DOS_NAMESPACE))
}
