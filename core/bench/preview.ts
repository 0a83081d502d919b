import { z } from 'zod'

/** What is shown of an item; `why` says in words what is not shown, and what to do instead. */
export const Preview = z.discriminatedUnion('as', [
  z.object({ as: z.literal('image') }),
  z.object({ as: z.literal('audio') }),
  z.object({ as: z.literal('video') }),
  z.object({ as: z.literal('pdf') }),
  z.object({ as: z.literal('text'), text: z.string(), encoding: z.string(), isCut: z.boolean() }),
  z.object({ as: z.literal('table'), rows: z.array(z.array(z.string())), isCut: z.boolean() }),
  z.object({ as: z.literal('record') }),
  z.object({ as: z.literal('none'), why: z.string() }),
])
export type Preview = z.infer<typeof Preview>
