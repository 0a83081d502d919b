import type { RouteKindInput } from './route-kind'
import { accountKinds } from './accounts'
import { backupKinds } from './backups'
import { binKinds } from './bins'
import { contactKinds } from './contacts'
import { laboratoryKinds } from './laboratory'
import { peopleKinds } from './people'
import { scanKinds } from './scans'
import { stillThereKinds } from './still-there'
import { versionKinds } from './versions'

/** Every kind of route that ships with the product; a new one is one more entry in its file. */
export const kinds: readonly RouteKindInput[] = [
  ...binKinds,
  ...accountKinds,
  ...contactKinds,
  ...versionKinds,
  ...backupKinds,
  ...scanKinds,
  ...stillThereKinds,
  ...peopleKinds,
  ...laboratoryKinds,
]
