import type { Abbreviation } from '@/core/job/label'
import type { UnitSystem } from '@/core/base/format'
import type { StockItem } from '@/core/workday/stock'
import type { MinutesTable } from '@/core/workday/tasks'
import type { ChangeRow, StoredJob } from '@/store/jobs'
import type { Filed } from '@/store/photographs'

export interface Made {
  readonly body: string | Uint8Array
  readonly type: string
  readonly name: string
}
/** What is too large to be held in memory: the path of a file, whose folder goes once it is sent. */
export interface MadeFile {
  readonly file: string
  readonly type: string
  readonly name: string
}
export interface Wanted {
  readonly stored: StoredJob
  readonly units: UnitSystem
  readonly circuit: string | null
  /** Of one point alone. */
  readonly point?: string | null
  /** The firm's own minutes, where it knows them. */
  readonly minutes?: MinutesTable
  /** How the firm shortens words on labels. */
  readonly abbreviations?: readonly Abbreviation[]
  /** For the circuit chart: the record as it was signed last, to compare with. */
  readonly signed?: StoredJob | null
  /** For the list of what is needed alone. */
  readonly van?: readonly StockItem[]
  /** For the paper of photographs, the pack and the archive. */
  readonly photographs?: readonly Filed[]
  /** A folder for pictures made for the paper, and for what is too large to be held in memory; who asks deletes it. */
  readonly folder?: string
  /** For the pack and the archive: what became of the job, newest first. */
  readonly history?: readonly ChangeRow[]
  /** Parts of the pack; none: those that are usual. */
  readonly parts?: readonly string[] | null
}
