import { z } from 'zod'
import { name, partId } from '../cases/shape/fact'

/** The most files that are brought in at once. */
export const MAX_BATCH_FILES = 20_000

const count = z.int().min(0)

/** A file as a page offers it: folders and name from the outermost, time of change in ms, 0 where it is not known. */
export const BatchFile = z.object({
  path: z.array(z.string().min(1).max(500)).min(1).max(60),
  bytes: z
    .int()
    .min(0)
    .max(2 ** 46),
  changed: z.int().min(0).max(8_640_000_000_000_000).default(0),
})
export type BatchFile = z.infer<typeof BatchFile>

/** The open run that files count for; null where they count for the case alone. */
const run = partId.nullable()

/** What a technician fetched by hand and brings to a case: files, or a folder of them. */
export const BatchStart = z.object({
  run,
  files: z
    .array(BatchFile)
    .min(1, 'has no files')
    .max(MAX_BATCH_FILES, `has more than ${MAX_BATCH_FILES} files; bring them as one archive, or name their folder`),
})
export type BatchStart = z.infer<typeof BatchStart>

/** A folder of the server's machine, named instead of sending its files. */
export const BatchFolder = z.object({ run, path: z.string().trim().min(1).max(1000) })

/** A batch of files on its way to the shop's disk. */
export const ArrivingBatch = z.object({
  id: z.string(),
  /** what its first folder or file is called, with how many others */
  title: name(160),
  run,
  bytes: count,
  /** bytes of each file that have arrived, in the order of the files */
  have: z.array(count),
  /** how many of the files are whole */
  whole: count,
})
export type ArrivingBatch = z.infer<typeof ArrivingBatch>

/** A batch that is whole, as a link of the bench. */
export const BatchLink = z.object({ link: z.string() })

/** Batches of a case that have begun to arrive, and the folders of which part may be named. */
export const ArrivingBatches = z.object({ arriving: z.array(ArrivingBatch), folders: z.array(z.string()) })
export type ArrivingBatches = z.infer<typeof ArrivingBatches>

/** How many bytes of a file have arrived. */
export const BatchProgress = z.object({ have: count })

/** "holiday and 3 others" for what is in a batch: the topmost folders and files, each once. */
export function batchTitle(files: readonly Pick<BatchFile, 'path'>[]): string {
  const tops = [...new Set(files.map(({ path }) => path[0]!))]
  const [first = 'files', ...others] = tops
  return (others.length === 0 ? first : `${first} and ${others.length} more`).slice(0, 160)
}
