import type { Job } from './schema'

/**
 * A job to begin another with: what was found, asked and designed, and nothing of what was done there. A copy is not
 * signed, labelled, isolated, logged or accepted, and none of its conductors is made off.
 */
export function copyOf({ issues: _, labels: __, due: ___, day, ...job }: Job): Job {
  return {
    ...job,
    title: `${job.title.slice(0, 112)} (copy)`,
    boxes: job.boxes.map((b) => ({ ...b, done: [] })),
    ...(day ? { day: { ...day, date: null, planned: null, log: [], signatures: [], accepted: null, variations: [] } } : {}),
  }
}
