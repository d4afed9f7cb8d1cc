import { evaluate } from '../core/evaluate/evaluate'
import type { Edit } from '../core/job/edits'
import { EditError } from '../core/job/part'
import { whyNotSigned } from '../core/documents/signing'
import { digestOf } from './chain'
import { loadJob } from './jobs'
import type { Store } from './open'

/** Holds a signature against the record as it is kept here. @throws EditError where something is missing, or it is not what was signed */
export function mayBeSigned(store: Store, id: string, { signature, digest }: Extract<Edit, { kind: 'issue.sign' }>): void {
  const { job, readings } = loadJob(store, id)
  // The same one sent again is answered by the part that keeps acts.
  if (job.issues?.some((i) => i.signatures.some((s) => s.id === signature.id))) return
  const [first, ...more] = whyNotSigned(evaluate(job, readings))
  if (first !== undefined)
    throw new EditError('signature', `Not signed. ${first}${more.length ? ` And ${more.length} more, listed under Handover.` : ''}`)
  if (digest !== digestOf(job, readings))
    throw new EditError('digest', 'Not signed: the record changed while it was being signed. Look at it once more, then sign.')
}
