import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { FORMATS, formatOfName } from '../files/formats/registry'

const FOLDER = join(import.meta.dirname, 'format-samples')

/**
 * Small files of each format, as ordinary tools wrote them (the compound file is made by hand), and what their own structure
 * proves of them. A new format adds one: a file in the folder and a line here.
 */
export const SAMPLES = [
  ['weir.jpg', 'intact'],
  ['plan.png', 'intact'],
  ['flag.gif', 'intact'],
  ['gate.webp', 'unverified'],
  ['stone.bmp', 'unverified'],
  ['chart.tif', 'unverified'],
  ['roof.avif', 'unverified'],
  ['barge.mp4', 'unverified'],
  ['barge.mov', 'unverified'],
  ['call.m4a', 'unverified'],
  ['phone.3gp', 'unverified'],
  ['winch.avi', 'unverified'],
  ['winch.mkv', 'unverified'],
  ['winch.webm', 'unverified'],
  ['bell.wav', 'unverified'],
  ['bell.mp3', 'unverified'],
  ['bell.flac', 'intact'],
  ['bell.ogg', 'intact'],
  ['tolls.pdf', 'unverified'],
  ['letter.docx', 'intact'],
  ['tolls.xlsx', 'intact'],
  ['minutes.doc', 'unverified'],
  ['notes.rtf', 'unverified'],
  ['store.sqlite', 'unverified'],
  ['diary.txt', 'unverified'],
  ['miller.vcf', 'unverified'],
  ['locks.ics', 'unverified'],
  ['tolls.eml', 'unverified'],
] as const

export type SampleName = (typeof SAMPLES)[number][0]

/** The bytes of a sample, a copy of one's own. */
export const sampleBytes = (name: SampleName): Uint8Array => new Uint8Array(readFileSync(join(FOLDER, name)))

export const samples = SAMPLES.map(([name, whole]) => ({
  name,
  whole,
  bytes: sampleBytes(name),
  format: formatOfName(name)!,
}))

/** The formats that have no sample. */
export const withoutSample = () =>
  FORMATS.map(({ id }) => id).filter((id) => !samples.some(({ format }) => format?.id === id))
