import { createHash } from 'node:crypto'
import type { Issue } from '../core/job/issue'
import type { Job } from '../core/job/schema'
import type { Reading } from '../core/job/reading'
import { canonical, signedText } from '../core/documents/signing'

/* Readings, signed isolations and issues, each hashed with the one before it: what is changed later breaks every link after it. */

export interface Link {
  readonly kind: 'reading' | 'isolation' | 'signature'
  readonly id: string
  /** SHA-256 of the link before it and of what is recorded. */
  readonly hash: string
}

const sha256 = (text: string): string => createHash('sha256').update(text, 'utf8').digest('hex')

/** SHA-256 of what a signature is put under. */
export const digestOf = (job: Job, readings: readonly Reading[]): string => sha256(signedText(job, readings))

/** The issue signed over the record in its present state; null: none, or something changed since. */
export function standingIssue(job: Job, readings: readonly Reading[]): Issue | null {
  const last = job.issues?.at(-1)
  return last && last.digest === digestOf(job, readings) ? last : null
}

/** The chain of a job: readings in the order they came, then signed isolations, then signatures of its issues. */
export function chainOf(job: Job, readings: readonly Reading[]): readonly Link[] {
  const records: readonly (readonly [Link['kind'], string, unknown])[] = [
    ...readings.map((r) => ['reading', r.id, r] as const),
    ...(job.day?.signatures ?? []).map((s) => ['isolation', s.id, s] as const),
    ...(job.issues ?? []).flatMap((i) => i.signatures.map((s) => ['signature', s.id, { ...s, issue: i.n, digest: i.digest }] as const)),
  ]
  let before = sha256(`synthema ${job.region}`)
  return records.map(([kind, id, record]) => ({ kind, id, hash: (before = sha256(`${before}\n${kind}\n${canonical(record)}`)) }))
}

/** The head of a chain as it is printed and typed: the first 40 digits of its last link, in groups. */
export const headOf = (chain: readonly Link[]): string => (chain.at(-1)?.hash ?? '').slice(0, 40).replaceAll(/(.{4})(?=.)/g, '$1 ')
export const sameHead = (typed: string, head: string): boolean => plain(typed) === plain(head) && plain(head) !== ''
const plain = (head: string): string => head.toLowerCase().replaceAll(/[^0-9a-f]/g, '')
