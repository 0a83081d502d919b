import { readFileSync } from 'node:fs'
import { basename } from 'node:path'
import { PatientSource } from '../core/sources/patient-source'
import type { ScanWarning } from '../core/volumes/filesystems/volume-shape'
import type { OpenedVolume } from '../core/volumes/luks/opened'
import { unlockVolumes } from '../core/volumes/unlock-volumes'
import { openImage } from '../disk/split-parts'

const STANDARD_INPUT = '-'
const MAX_BYTES = 64 * 1024

/** The encrypted volumes of an image that were opened, and what is to be said of the others. */
export interface OpenedImage {
  readonly opened: readonly OpenedVolume[]
  readonly warnings: readonly ScanWarning[]
}

/**
 * Opens the encrypted volumes of an image with the passphrase in a file, or on standard input for `-`: its text without the end of
 * the line, or else all of its bytes, as a key file has them. One line each says why none was opened.
 */
export async function openVolumes(image: string, file: string): Promise<OpenedImage | { faults: string[] }> {
  const secrets = secretsIn(file)
  if ('faults' in secrets) return secrets
  let medium
  try {
    medium = openImage(image)
  } catch (error) {
    return { faults: [`${basename(image)}: cannot be read (${(error as NodeJS.ErrnoException).code})`] }
  }
  try {
    const { locked, opened, faults } = await unlockVolumes(new PatientSource(medium), secrets.all)
    if (locked === 0) return { faults: ['--passphrase: the image has no volume that a passphrase opens'] }
    if (opened.length === 0) return { faults: faults.map(({ where, what }) => `--passphrase: ${where}: ${what}`) }
    return { opened, warnings: faults }
  } finally {
    medium.close()
  }
}

function secretsIn(file: string): { all: Uint8Array[] } | { faults: string[] } {
  let bytes: Uint8Array
  try {
    bytes = readFileSync(file === STANDARD_INPUT ? 0 : file)
  } catch (error) {
    return { faults: [`--passphrase: ${basename(file)} cannot be read (${(error as NodeJS.ErrnoException).code})`] }
  }
  if (bytes.length > MAX_BYTES) return { faults: [`--passphrase: is longer than ${MAX_BYTES} bytes`] }
  const line = withoutLineEnd(bytes)
  if (line.length === 0) return { faults: ['--passphrase: is empty'] }
  return { all: line.length < bytes.length ? [line, bytes] : [line] }
}

function withoutLineEnd(bytes: Uint8Array): Uint8Array {
  let end = bytes.length
  if (bytes[end - 1] === 0x0a) end--
  if (end < bytes.length && bytes[end - 1] === 0x0d) end--
  return bytes.subarray(0, end)
}
