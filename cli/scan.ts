import { existsSync, realpathSync, statSync, writeFileSync } from 'node:fs'
import { basename, dirname, join, relative, resolve } from 'node:path'
import type { MediaItem } from '../core/scanning/item'
import {
  contentOf,
  formatsNamed,
  markUnreadable,
  reported,
  scanImage,
  type ScanOptions,
  type ScanProgress,
} from '../core/scanning/scan'
import { PatientSource } from '../core/sources/patient-source'
import { watched } from '../core/sources/watched'
import type { ScanItem, ScanReport } from '../core/scanning/scan-report'
import { helpersFor } from '../disk/helper-program'
import type { HelperThreads } from '../disk/helper-threads'
import { liesOnSource } from '../disk/same-medium'
import { findVolumes } from '../core/volumes/volumes'
import { openedSource } from '../core/volumes/luks/opened'
import { openImage, partsSay, splitParts } from '../disk/split-parts'
import { sha256Of } from '../disk/write-items'
import type { OpenedImage } from './passphrase'
import { keepOnShelf } from './shelf'

export interface ScanWords {
  readonly report: string
  readonly pass?: string
  readonly types?: string
  readonly shelf?: string
  readonly only?: string
  readonly whole?: boolean
}

export type ScanCommandOutcome = { readonly report: ScanReport } | { readonly faults: readonly string[] }

/** Scans an image, with the volumes in it that were opened, writes the report and, where asked for, what can be recovered; or one clear line per fault. */
export function scanCommand(
  file: string,
  words: ScanWords,
  tell: (progress: ScanProgress) => void,
  unlocked: OpenedImage = { opened: [], warnings: [] },
): ScanCommandOutcome {
  const options = optionsOf(words)
  if ('faults' in options) return options
  const fault = placeFault(file, words)
  if (fault) return { faults: [fault] }
  const began = performance.now()
  let medium
  try {
    medium = openImage(file)
  } catch (error) {
    return { faults: [`${basename(file)}: cannot be read (${(error as NodeJS.ErrnoException).code})`] }
  }
  let helpers: HelperThreads | undefined
  try {
    if (medium.size === 0) return { faults: [`${basename(file)}: is empty`] }
    let bytesRead = 0
    const image = new PatientSource(
      watched(openedSource(medium, unlocked.opened), ({ bytes }) => {
        bytesRead += bytes.length
      }),
    )
    helpers = helpersFor(medium.size, { path: file, opened: unlocked.opened })
    const steps = scanImage(image, {
      ...options,
      volumes: findVolumes(image, unlocked.opened),
      ...(helpers ? { helpers } : {}),
    })
    let step = steps.next()
    for (; !step.done; step = steps.next()) tell(step.value)
    const { volumes, items, warnings } = step.value
    const kept = words.shelf === undefined ? null : keepOnShelf(image, items, words.shelf, basename(file))
    if (kept && 'faults' in kept) return kept
    const report: ScanReport = {
      format: 'russet-lantern/scan',
      version: 1,
      image: { name: basename(file), bytes: medium.size },
      volumes: volumes.map(({ shape }) => shape),
      items: kept ? kept.items : items.map((item, at) => told(image, item, at)),
      warnings: [...partsSay(file), ...unlocked.warnings, ...warnings, ...(kept?.warnings ?? [])],
      stats: { bytesRead, seconds: (performance.now() - began) / 1000, unreadableBytes: image.unreadableBytes },
    }
    writeFileSync(words.report, `${JSON.stringify(report, null, 1)}\n`)
    return { report }
  } catch (error) {
    const { code, path } = error as NodeJS.ErrnoException
    if (code === undefined) throw error
    return { faults: [`${basename(path ?? words.report)}: cannot be written (${code})`] }
  } finally {
    helpers?.end()
    medium.close()
  }
}

function optionsOf({
  pass = 'both',
  only = 'all',
  types,
  whole = false,
}: ScanWords): ScanOptions | { faults: string[] } {
  if (pass !== 'quick' && pass !== 'deep' && pass !== 'both')
    return { faults: [`--pass: ${pass} is not one of quick, deep, both`] }
  if (only !== 'deleted' && only !== 'all') return { faults: [`--only: ${only} is not one of deleted, all`] }
  if (types === undefined) return { pass, only, isWhole: whole, formats: null }
  const named = types.split(',').map((word) => word.trim())
  const { formats, unknown } = formatsNamed(named.filter((word) => word !== ''))
  if (unknown.length > 0) return { faults: [`--types: ${unknown.join(', ')} is not known`] }
  return formats.size === 0 ? { faults: ['--types: is empty'] } : { pass, only, isWhole: whole, formats }
}

/** What must not be: nothing to read, or something written where it is read from. */
function placeFault(file: string, { report, shelf }: ScanWords): string | null {
  const name = basename(file)
  if (!existsSync(file)) return `${name}: is not there`
  const facts = statSync(file)
  if (!facts.isFile() && !facts.isBlockDevice()) return `${name}: is neither a disk image nor a block device`
  const parts = splitParts(file)?.paths ?? [file]
  if (parts.some((part) => real(report) === real(part))) return '--report: would overwrite the source'
  if (!existsSync(dirname(resolve(report)))) return `${basename(report)}: cannot be written (its folder is not there)`
  if (shelf === undefined) return null
  if (isWithin(real(shelf), real(file))) return '--shelf: is inside the source'
  if (existsSync(shelf) && !statSync(shelf).isDirectory()) return '--shelf: is not a folder'
  if (liesOnSource(shelf, file)) return '--shelf: is on the source or on the same physical medium'
  return null
}

function real(path: string): string {
  const rest: string[] = []
  let there = resolve(path)
  while (!existsSync(there) && dirname(there) !== there) {
    rest.unshift(basename(there))
    there = dirname(there)
  }
  return join(realpathSync(there), ...rest)
}

const isWithin = (path: string, folder: string) =>
  path === folder || (!relative(folder, path).startsWith('..') && relative(folder, path) !== '')

function told(image: PatientSource, item: MediaItem, at: number): ScanItem {
  const sha256 = checksumOf(image, item)
  return reported(item, `i${at + 1}`, sha256)
}

/** A file of holes may claim to be longer than anybody would read: its checksum is left out. */
const MAX_BEYOND_IMAGE = 64 * 1024 ** 3

function checksumOf(image: PatientSource, item: MediaItem): string | null {
  if (item.content === 'overwritten' || contentOf(image, item).size > image.size + MAX_BEYOND_IMAGE) return null
  const sha256 = sha256Of(contentOf(image, item))
  markUnreadable(image, item)
  return sha256
}
