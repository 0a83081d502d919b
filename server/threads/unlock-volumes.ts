// Tries a passphrase on the encrypted volumes of a medium, in a process of its own: key functions take time and memory.
import { PatientSource } from '../../core/sources/patient-source'
import { unlockVolumes } from '../../core/volumes/unlock-volumes'
import { answerInProcess } from './answer-in-process'
import { openMedium } from './open-medium'
import type { UnlockOrder } from './unlock-order'

answerInProcess<UnlockOrder>(async ({ medium: place, passphrase }) => {
  const medium = openMedium(place)
  try {
    return await unlockVolumes(new PatientSource(medium), [Buffer.from(passphrase, 'utf8')])
  } finally {
    medium.close()
  }
})
