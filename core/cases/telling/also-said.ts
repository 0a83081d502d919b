import type { CopyKind } from '../shape/copy'
import type { DataType } from '../shape/data-types'
import type { CONDITIONS, DeviceKind, Platform } from '../shape/device'
import type { LossKind } from '../shape/loss'

type Also<K extends string> = Partial<Record<K, readonly string[]>>

/** What else people at a counter call a device. */
export const DEVICE_KIND_ALSO: Also<DeviceKind> = {
  phone: ['mobile', 'handset', 'smartphone', 'cell phone'],
  tablet: ['pad', 'slate'],
  laptop: ['notebook', 'portable computer'],
  desktop: ['computer', 'pc', 'tower', 'workstation', 'all-in-one'],
  server: ['nas', 'network storage', 'box in the cupboard'],
  camera: ['cam', 'camcorder', 'action camera', 'dashcam', 'drone'],
  recorder: ['dictaphone', 'voice recorder', 'sound recorder', 'video recorder'],
  card: ['sd card', 'microsd card', 'memory card', 'flash card'],
  stick: ['usb stick', 'usb drive', 'thumb drive', 'pen drive', 'flash drive'],
  'external-disk': ['usb disk', 'portable disk', 'external drive', 'hard drive', 'hard disk', 'backup disk'],
}

export const PLATFORM_ALSO: Also<Platform> = {
  'desktop-pc': ['pc', 'ordinary pc'],
  'maker-desktop': ['maker’s own desktop', 'maker-run'],
  'unix-desktop': ['free desktop', 'unix'],
}

export const TYPE_ALSO: Also<DataType> = {
  photos: ['pictures', 'images', 'pics', 'snaps'],
  videos: ['videos', 'films', 'movies', 'clips'],
  audio: ['audio', 'music', 'voice memos', 'recordings', 'voice notes'],
  contacts: ['address book', 'phone numbers', 'addresses'],
  messages: ['texts', 'text messages', 'sms'],
  chats: ['chat', 'chats', 'conversations', 'app messages'],
  'call-records': ['calls', 'call list', 'call log'],
  notes: ['memos', 'note'],
  calendar: ['appointments', 'events', 'diary'],
  mail: ['e-mail', 'email', 'emails', 'mails'],
  documents: ['letters', 'papers', 'pdfs', 'essays', 'text documents'],
  spreadsheets: ['tables', 'sheets', 'accounts', 'books'],
  bookmarks: ['favourites', 'favorites'],
  files: ['everything', 'all files', 'folder', 'folders', 'data', 'drawings', 'projects'],
}

export const LOSS_ALSO: Also<LossKind> = {
  'deleted-singly': ['deleted by hand', 'deleted singly'],
  'deleted-in-bulk': ['deleted', 'erased', 'wiped', 'thrown away', 'deleted by mistake', 'cleared'],
  'deleted-past-bin': [
    'deleted for good',
    'permanently deleted',
    'deleted permanently',
    'skipped the bin',
    'shift deleted',
  ],
  'bin-emptied': ['bin emptied', 'emptied the bin', 'deleted from the bin', 'removed from the bin'],
  'factory-reset': ['reset', 'factory reset', 'set up as new'],
  reinstalled: ['installed again', 'reinstalled', 'new system', 'system installed'],
  formatted: ['formatted', 'initialised', 'format'],
  'crashed-before-saving': ['crashed', 'not saved', 'never saved', 'crash'],
  'saved-over': ['overwritten', 'written over', 'replaced'],
  'sync-switched': ['sync switched', 'sync', 'switched account', 'signed out'],
  'app-removed': ['app removed', 'uninstalled', 'app deleted', 'app reinstalled'],
  'locked-out': ['locked out', 'forgot the code', 'locked'],
  broken: ['broken', 'does not start', 'damaged', 'fell', 'water damage', 'drowned'],
  'device-gone': ['stolen', 'lost', 'burned', 'fire', 'lost with the phone', 'device stolen'],
  malware: ['virus', 'ransomware', 'encrypted by a virus', 'hacked'],
  'not-lost-yet': ['not yet', 'still there', 'will be lost', 'not lost', 'about to be lost', 'nothing lost'],
}

export const CONDITION_ALSO: Also<(typeof CONDITIONS)[number]> = {
  working: ['fine', 'ok', 'works', 'runs', 'in order'],
  cracked: ['broken screen', 'broken glass', 'smashed', 'cracked screen'],
  'touch-dead': ['touch dead', 'touch broken', 'dead touch', 'no touch', 'touch not working', 'screen black'],
  'system-crashed': [
    'crashed',
    'does not boot',
    'won’t boot',
    'boot loop',
    'stuck at start',
    'does not get through its start',
  ],
  wet: ['water damage', 'in water', 'drowned'],
  'no-power': ['dead', 'does not start', 'won’t start', 'won’t switch on', 'does not charge', 'off'],
  gone: ['stolen', 'lost', 'burned', 'destroyed', 'not here', 'thrown away'],
  clicking: ['clicks', 'noises', 'grinding', 'ticking', 'not spinning'],
}

export const COPY_KIND_ALSO: Also<CopyKind> = {
  'cloud-library': ['photo library', 'cloud photos', 'pictures in the cloud', 'cloud'],
  'cloud-drive': ['synced folder', 'online drive', 'shared folder', 'drive in the cloud'],
  'cloud-backup': ['backup in the cloud', 'online backup', 'phone backup in the cloud'],
  'computer-backup': ['computer backup', 'backup on the laptop', 'backup', 'backup disk'],
  'trusted-computer': ['trusted computer', 'computer that was connected'],
  'file-history': ['history of files', 'backup of files'],
  'earlier-versions': ['previous versions', 'old versions', 'versions'],
  'snapshot-timeline': ['hourly snapshots', 'snapshot', 'timeline'],
  'system-image': ['image of the system', 'full image'],
  'restore-point': ['restore point'],
  'contact-archive': ['contacts in the account', 'address book online'],
  'bookmark-archive': ['old bookmarks', 'archive of bookmarks'],
  'mail-account': ['mail on the server', 'webmail', 'mailbox', 'e-mail account'],
  'social-account': ['social network', 'posted online'],
  'app-copies': ['app’s own copies', 'app backup', 'nightly copies of the app', 'chat backup', 'rolling copies'],
  'other-device': [
    'other device',
    'other phone',
    'other tablet',
    'another device',
    'tablet that still shows them',
    'second phone',
    'still on the tablet',
  ],
  'sim-card': ['sim'],
  'disk-image': ['image of the disk', 'clone'],
  medium: ['card', 'memory card', 'stick', 'usb stick', 'old disk', 'external disk', 'copy disk', 'dvd'],
  person: ['somebody', 'friend', 'sister', 'partner', 'colleague', 'sent to somebody'],
}
