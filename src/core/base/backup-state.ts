/** A backup that is kept beside or away from the data folder. */
export interface KeptBackup {
  readonly name: string
  readonly at: string
  readonly bytes: number
}

/** How old the newest backup is, and whether one is being made. */
export interface BackupState {
  readonly last: KeptBackup | null
  /** No backup, or none for too long. */
  readonly old: boolean
  readonly every: string | null
  readonly running: boolean
  /** Why the last one was not made; null: it was. */
  readonly failed: string | null
}
