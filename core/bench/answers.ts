import { z } from 'zod'
import { Find, FindFolder } from './filter'
import { MediumEntry, PassShape, UploadShape } from './medium'
import { Preview } from './preview'

const count = z.int().min(0)

// Small answers of the bench, each of one route; the large ones are in the files of their subjects.

/** A listing has started; this is its number. */
export const ListingBegun = z.object({ listing: z.int() })

/** A scan has started, with the listing that it fills. */
export const PassBegun = z.object({ pass: z.int(), listing: z.int() })

export const PassList = z.object({ passes: z.array(PassShape) })

/** One item opened: everything that is known of it, and its preview. */
export const FindOpened = z.object({ find: Find, preview: Preview })

export const FolderList = z.object({ folders: z.array(FindFolder) })

/** How many items were selected or deselected. */
export const SelectAnswer = z.object({ changed: count })

/** How many items were restored. */
export const PutBackAnswer = z.object({ count })

/** The media that may be read here, uploads under way, and the folder for images placed by hand. */
export const MediaRegister = z.object({
  folder: z.string(),
  media: z.array(MediumEntry),
  uploads: z.array(UploadShape),
})
export type MediaRegister = z.infer<typeof MediaRegister>

export const UploadList = z.object({ uploads: z.array(UploadShape) })

/** An upload after a part of it arrived. */
export const UploadStretch = UploadShape.extend({ isWhole: z.boolean() })

/** The folders in which backups are found, as the owner names them. */
export const NamedFolders = z.object({ folders: z.array(z.string().trim().min(1).max(1000)).max(20) })

/** The images and block devices that may be read, as the owner names them. */
export const NamedPaths = z.object({ paths: z.array(z.string().trim().min(1).max(1000)).max(50) })

/** What the owner of a stand-in would say at the counter. */
export const SpokenSecrets = z.object({ told: z.array(z.string()) })
