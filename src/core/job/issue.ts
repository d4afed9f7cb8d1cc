import { z } from 'zod'
import { idField, text } from './fields'
import { EditError, edits } from './part'

/** What a person signs for. */
export const signedFor = ['design', 'work', 'tests'] as const

const signedSchema = z.strictObject({
  id: idField,
  for: z.enum(signedFor),
  name: text(120),
  qualification: text(200),
  /** Licence or registration number; empty where there is none. */
  registration: text(120),
  at: z.iso.datetime(),
})
/** The record as it was handed over: signed by named people, and frozen. */
const issueSchema = z.strictObject({
  n: z.int().min(1).max(200),
  at: z.iso.datetime(),
  /** SHA-256 of what was signed: the job without its issues, and its readings. */
  digest: z.string().regex(/^[0-9a-f]{64}$/),
  signatures: z.array(signedSchema).min(1).max(20),
})
export const issuesSchema = z.array(issueSchema).max(200)
export type Issue = z.infer<typeof issueSchema>
export type IssueSignature = z.infer<typeof signedSchema>

const edit = edits<{ issues?: Issue[] }>()
export const issueEdits = {
  /** A signature under the record as it stands: a new issue where anything changed since the last. */
  'issue.sign': edit(
    { signature: signedSchema, digest: issueSchema.shape.digest },
    (job, { signature, digest }) => {
      if (signature.name.trim() === '') throw new EditError('signature.name', 'Who signs?')
      const issues = (job.issues ??= [])
      if (issues.some((i) => i.signatures.some((s) => s.id === signature.id)))
        throw new EditError('signature.id', 'There is one with this id already.')
      const last = issues.at(-1)
      if (last?.digest === digest) last.signatures.push(signature)
      else issues.push({ n: (last?.n ?? 0) + 1, at: signature.at, digest, signatures: [signature] })
    },
    ({ signature }) => `Record signed by ${signature.name}`,
  ),
}
