import { MediaRegister } from '../../../../core/bench/answers'
import type { MediumEntry } from '../../../../core/bench/medium'
import { everyMedium, mediaFolder } from '../../../links/register'
import { uploads } from '../../../steps/uploads'

/** The media that may be read here, uploads under way, and the folder for images placed by hand. */
export default defineRoute({ answers: MediaRegister, may: 'work' }, async () => ({
  folder: await mediaFolder(),
  media: (await everyMedium()).map(({ id, title, path, bytes, isDevice, isStandIn }): MediumEntry => ({
    id,
    title,
    path,
    bytes,
    isDevice,
    isStandIn,
  })),
  uploads: await uploads(),
}))
