import { sessionSecret } from '../db/data-folder'
import { hasOwner } from '../people/store'

const LOOPBACK = '127.0.0.1'

/**
 * Decides where the server listens, before it does: the loopback address unless told otherwise, and
 * nothing else before an owner exists. Also gives the sessions their secret, made once for each shop.
 */
export default defineNitroPlugin(() => {
  const { database } = useLantern()
  const asked = process.env.LANTERN_HOST || LOOPBACK
  const isOwned = hasOwner(database)
  if (asked !== LOOPBACK && !isOwned)
    console.warn(`No owner exists yet, so this listens on ${LOOPBACK} only; start it again after the first sign-in.`)
  process.env.NITRO_HOST = isOwned ? asked : LOOPBACK
  process.env.NITRO_PORT = process.env.LANTERN_PORT || process.env.PORT || '4747'
  process.env.NUXT_SESSION_PASSWORD = sessionSecret(dataFolder())
})
