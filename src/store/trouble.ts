/** What can befall the place where everything is kept. */
export type Trouble = 'full' | 'read-only' | 'gone' | 'locked' | 'rubbish' | 'taken' | 'rescued' | 'failing'

const said: Record<Trouble, (folder: string) => string> = {
  full: (f) => `The disk that holds ${f} is full. Nothing was written. Make room on it; what waits is sent then.`,
  'read-only': (f) =>
    `${f} cannot be written to. Nothing was kept. Give it back to the account that runs Synthema, or mount it for writing.`,
  gone: (f) =>
    `The database in ${f} was deleted or moved while the server ran. Nothing more is accepted. Stop the server, put the file back, ` +
    'and start it again.',
  locked: (f) =>
    `Another program holds the database in ${f}. Nothing was written. Close that program (a copy being made, a viewer); what waits is ` +
    'sent then.',
  rubbish: (f) =>
    `The file synthema.db in ${f} is damaged, or is no database of Synthema. Nothing in it was changed. Stop the server, move the file ` +
    'aside, put the last good copy in its place, and start it again.',
  taken: (f) =>
    `Another Synthema already serves ${f}. Two would not see each other’s work. Use that one, or stop it, or start this one with another ` +
    'folder in SYNTHEMA_DATA.',
  rescued: (f) =>
    `A copy that was rescued in ${f} is newer than its synthema.db. Nothing was opened. Start again with RESCUED=use to go on from the ` +
    'copy (the older file is kept beside it), or with RESCUED=keep to go on from synthema.db (the copy is kept).',
  failing: (f) =>
    `The disk that holds ${f} did not do what was asked of it. Nothing was acknowledged. Look after the disk before going on.`,
}

/** The storage failed: what happened, and what to do. */
export class StorageError extends Error {
  constructor(
    readonly trouble: Trouble,
    folder: string,
    cause?: unknown,
    more = '',
  ) {
    super(said[trouble](folder) + more, { cause })
    this.name = 'StorageError'
  }
}

/** By the beginning of the code that the database or the system gives; the longer ones first. */
const byCode: readonly (readonly [string, Trouble])[] = [
  ['SQLITE_READONLY_DBMOVED', 'gone'],
  ['SQLITE_READONLY', 'read-only'],
  ['SQLITE_FULL', 'full'],
  ['SQLITE_BUSY', 'locked'],
  ['SQLITE_LOCKED', 'locked'],
  ['SQLITE_NOTADB', 'rubbish'],
  ['SQLITE_CORRUPT', 'rubbish'],
  ['SQLITE_IOERR', 'failing'],
  ['SQLITE_CANTOPEN', 'failing'],
  ['ENOSPC', 'full'],
  ['EDQUOT', 'full'],
  ['EFBIG', 'full'],
  ['EROFS', 'read-only'],
  ['EACCES', 'read-only'],
  ['EPERM', 'read-only'],
  ['EIO', 'failing'],
  ['ENOTDIR', 'failing'],
  ['EEXIST', 'failing'],
]

/** What befell the storage, where that is why something failed; null where it failed for another reason. */
export function storageTrouble(e: unknown, folder: string): StorageError | null {
  if (e instanceof StorageError) return e
  if (!(e instanceof Error)) return null
  const code = 'code' in e && typeof e.code === 'string' ? e.code : ''
  const known = byCode.find(([begin]) => code.startsWith(begin))
  return known ? new StorageError(known[1], folder, e, known[1] === 'failing' ? ` (${code})` : '') : storageTrouble(e.cause, folder)
}
