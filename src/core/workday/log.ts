import type { Job } from '../job/schema'
import { taskKinds, type TaskKind } from './task-kinds'

/** A task as it was done: what it was expected to take, and what it took, in minutes. */
export interface LoggedTask {
  readonly job: string
  readonly kind: TaskKind
  readonly expectedMin: number
  readonly tookMin: number
  readonly note: string
}

/** What was done in a job and has ended; a task started again is one task. */
export function loggedIn(id: string, job: Pick<Job, 'day'>): LoggedTask[] {
  const rows = new Map<string, LoggedTask>()
  for (const r of job.day?.log ?? []) {
    const kind = taskKinds.find((k) => r.task === k || r.task.startsWith(`${k} `))
    if (r.endedAt === null || !kind) continue
    const tookMin = (Date.parse(r.endedAt) - Date.parse(r.startedAt)) / 60_000
    const known = rows.get(r.task)
    rows.set(r.task, {
      job: id,
      kind,
      expectedMin: known?.expectedMin ?? r.expectedMin,
      tookMin: (known?.tookMin ?? 0) + tookMin,
      note: [known?.note, r.note].filter(Boolean).join('; '),
    })
  }
  return [...rows.values()].filter((r) => r.tookMin > 0)
}

export interface Learnt {
  readonly kind: TaskKind
  /** How many times what was expected such a task takes: the median; and the range that holds the middle half. */
  readonly factor: number
  readonly low: number
  readonly high: number
  readonly times: number
  readonly jobs: number
  /** So far off that they say nothing of the usual: an interruption, a mistake in the log. */
  readonly leftOut: number
  readonly enough: boolean
}

/** Fewer jobs than this say nothing yet. */
export const LEAST_JOBS = 3
/** Times the median deviation from the median: farther off is left out. */
const FAR = 5

const quantile = (sorted: readonly number[], q: number): number => {
  const at = q * (sorted.length - 1)
  const [low, high] = [sorted[Math.floor(at)]!, sorted[Math.ceil(at)]!]
  return low + (high - low) * (at - Math.floor(at))
}

/** What the log says of each kind of task: a robust middle with its spread, what lies far off kept out and counted. */
export function learnt(log: readonly LoggedTask[]): readonly Learnt[] {
  return taskKinds.flatMap((kind): Learnt[] => {
    const rows = log.filter((r) => r.kind === kind)
    if (rows.length === 0) return []
    const ratios = rows.map((r) => r.tookMin / r.expectedMin).toSorted((a, b) => a - b)
    const middle = quantile(ratios, 0.5)
    const spread = quantile(
      ratios.map((r) => Math.abs(r - middle)).toSorted((a, b) => a - b),
      0.5,
    )
    const kept = ratios.filter((r) => Math.abs(r - middle) <= Math.max(FAR * spread, 0.05))
    const jobs = new Set(rows.map((r) => r.job)).size
    return [
      {
        kind,
        factor: quantile(kept, 0.5),
        low: quantile(kept, 0.25),
        high: quantile(kept, 0.75),
        times: kept.length,
        jobs,
        leftOut: ratios.length - kept.length,
        enough: jobs >= LEAST_JOBS,
      },
    ]
  })
}
