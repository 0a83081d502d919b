import { ashbyAccount } from './ashby-account'
import type { StandIn } from './base'
import { byrneAccount } from './byrne-account'
import { canalServer } from './canal-server'
import { carrickAccount } from './carrick-account'
import { fieldHutLaptop } from './field-hut-laptop'
import { guildAccount } from './guild-account'
import { harrowbyBook } from './harrowby-book'
import { korvane3 } from './korvane-3'
import { korvane5 } from './korvane-5'
import { korvane7 } from './korvane-7'
import { korvaneAir } from './korvane-air'
import { libraryVan } from './library-van'
import { lindqvistAccount } from './lindqvist-account'
import { lindqvistOldAccount } from './lindqvist-old-account'
import { navigationOffice } from './navigation-office'
import { ostrelFold } from './ostrel-fold'
import { ostrelMini } from './ostrel-mini'
import { pelloonLeaf } from './pelloon-leaf'
import { pelloonSlate } from './pelloon-slate'
import { studyComputer } from './study-computer'

/** Every stand-in that ships; a new one is one more file. */
export const standIns: readonly StandIn[] = [
  korvane7,
  ashbyAccount,
  fieldHutLaptop,
  korvane5,
  studyComputer,
  pelloonSlate,
  byrneAccount,
  ostrelMini,
  lindqvistAccount,
  lindqvistOldAccount,
  korvaneAir,
  carrickAccount,
  ostrelFold,
  navigationOffice,
  harrowbyBook,
  guildAccount,
  libraryVan,
  pelloonLeaf,
  canalServer,
  korvane3,
]
