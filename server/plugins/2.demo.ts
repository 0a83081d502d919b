import { speak } from '../../core/local/language'
import { attachStandIns } from '../links/demo-links'
import { fillWithDemo } from '../stand-ins/demo'
import { fillPastYear } from '../stand-ins/past-year'
import { makeStandInMedia } from '../links/register'
import { addPerson, hasOwner } from '../people/store'
import { readPlaybook } from '../settings'
import { makeStandIns } from '../stand-ins/make'
import { DEMO_PEOPLE } from '../../stand-ins/shop/people'

/**
 * Fills an empty shop with the demo's people, cases and stand-ins; a shop with people is left alone. Routes answer only
 * afterwards.
 */
export default defineNitroPlugin(() => {
  const lantern = useLantern()
  lantern.ready = fill(lantern).then(() => speak(readPlaybook(lantern.database).shop.language))
})

/** The demo's ledger: a year in which scans of sticks brought less from the summer on. */
const PAST_YEAR = {
  seed: 12,
  runs: 420,
  often: [
    'gallery-bin',
    'medium-deep-scan',
    'backup-selective',
    'device-photo-bin',
    'cloud-library-bin',
    'computer-bin',
    'ask-sender',
    'laboratory',
  ],
  falls: { kind: 'stick-deep-scan', by: 0.5, after: 0.45 },
}

async function fill({ isDemo, database, clock, standIns }: ReturnType<typeof useLantern>): Promise<void> {
  const isNew = isDemo && !hasOwner(database)
  if (isNew) fillWithDemo(database, clock.now())
  if (isNew && process.env.LANTERN_PAST_YEAR !== '0') fillPastYear(database, { ...PAST_YEAR, now: clock.now() })
  if (standIns?.isEmpty())
    standIns.put(await makeStandIns(standIns.contents, clock.now(), readPlaybook(database).shop.zone))
  if (isNew) makeStandInMedia(clock.now())
  if (isNew) attachStandIns({ by: 'Suda Wray', now: clock.now() })
  if (isNew)
    for (const { name, signIn, role, passwordHash } of DEMO_PEOPLE)
      addPerson(database, { name, signIn, role, passwordHash }, clock.now())
}
