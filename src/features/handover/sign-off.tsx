'use client'
import { useEffect, useState } from 'react'
import { type IssueSignature, signedFor } from '@/core/job/issue'
import { signedText, whyNotSigned } from '@/core/documents/signing'
import { SelectField, TextField } from '@/ui/fields'
import { FieldGrid, Section } from '@/ui/panel'
import { VerdictMark } from '@/ui/verdict'
import { formatWhen } from '@/ui/when'
import { PaperLink } from '../fields/paper-link'
import { useJob } from '../sync/context'
import type { LoadedJob } from '../sync/job-state'

const forWords: Readonly<Record<IssueSignature['for'], string>> = {
  design: 'The design',
  work: 'The work',
  tests: 'The inspection and tests',
}

/** SHA-256 of a text, as the server works it out. */
async function sha256(text: string): Promise<string> {
  const bytes = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(text))
  return [...new Uint8Array(bytes)].map((b) => b.toString(16).padStart(2, '0')).join('')
}

/** The number of the last issue where the record was changed after it was signed; null: it was not, or is not signed. */
function useChangedSince(saved: LoadedJob): number | null {
  const [changed, setChanged] = useState<number | null>(null)
  useEffect(() => {
    const last = saved.job.issues?.at(-1)
    let current = true
    const set = (n: number | null) => current && setChanged(n)
    if (last)
      sha256(signedText(saved.job, saved.readings)).then(
        (digest) => set(digest === last.digest ? null : last.n),
        () => set(null),
      )
    else set(null)
    return () => void (current = false)
  }, [saved])
  return changed
}

/** Named people sign the current record; later changes are signed as the next issue. */
export function SignOff() {
  const id = useJob((s) => s.id)
  const saved = useJob((s) => s.saved)
  const report = useJob((s) => s.report)
  const waiting = useJob((s) => s.pending.length)
  const commit = useJob((s) => s.commit)
  const [draft, setDraft] = useState({ for: 'work' as IssueSignature['for'], name: '', qualification: '', registration: '' })
  const [complaint, setComplaint] = useState<string | null>(null)
  const why = whyNotSigned(report)
  const changed = useChangedSince(saved)
  const issues = saved.job.issues ?? []
  const sign = async () => {
    setComplaint(null)
    try {
      const digest = await sha256(signedText(saved.job, saved.readings))
      const signature = { ...draft, name: draft.name.trim(), id: crypto.randomUUID(), at: new Date().toISOString() }
      commit({ kind: 'issue.sign', signature, digest })
      setDraft({ ...draft, name: '', qualification: '', registration: '' })
    } catch {
      setComplaint('This browser cannot sign here: open the page over TLS, or on the machine that serves it.')
    }
  }
  return (
    <Section title="Signatures">
      {issues.map((i) => (
        <div key={i.n} className="border-b border-rule py-1">
          <b>Issue {i.n}</b>
          <ul>
            {i.signatures.map((s) => (
              <li key={s.id}>
                {forWords[s.for]}: {[s.name, s.qualification, s.registration].filter(Boolean).join(', ')}, {formatWhen(s.at)}
              </li>
            ))}
          </ul>
          <PaperLink job={id} file={`pack.pdf?issue=${i.n}`} name={`Pack, issue ${i.n}`} className="tap underline">
            The pack as it was signed
          </PaperLink>{' '}
          <PaperLink job={id} file={`door.pdf?issue=${i.n}`} name={`Circuit chart, issue ${i.n}`} className="tap underline">
            The circuit chart as it was signed
          </PaperLink>
        </div>
      ))}
      {changed !== null && (
        <p className="mt-2 flex items-start gap-2 font-bold">
          <VerdictMark of="warning" /> The record has changed since issue {changed} was signed. Sign it again.
        </p>
      )}
      {issues.length === 0 && <p className="text-ink-2">Not signed yet.</p>}
      {why.length > 0 ? (
        <>
          <p className="mt-2 flex items-start gap-2">
            <VerdictMark of="unknown" /> <span>It cannot be signed yet:</span>
          </p>
          <ul className="list-disc pl-7">
            {why.map((w) => (
              <li key={w} className="py-0.5">
                {w}
              </li>
            ))}
          </ul>
        </>
      ) : (
        <div className="mt-2">
          <FieldGrid>
            <SelectField
              wide
              label="Signs for"
              value={draft.for}
              options={signedFor.map((f) => ({ value: f, label: forWords[f] }))}
              onCommit={(f) => setDraft({ ...draft, for: f })}
            />
            <TextField wide label="Name" value={draft.name} onCommit={(name) => setDraft({ ...draft, name: name.slice(0, 120) })} />
            <TextField
              wide
              label="Qualification"
              value={draft.qualification}
              onCommit={(v) => setDraft({ ...draft, qualification: v.slice(0, 200) })}
            />
            <TextField
              wide
              label="Licence or registration number"
              value={draft.registration}
              onCommit={(v) => setDraft({ ...draft, registration: v.slice(0, 120) })}
            />
          </FieldGrid>
          <button type="button" className="btn btn-ink mt-2" disabled={draft.name.trim() === '' || waiting > 0} onClick={() => void sign()}>
            Sign the record
          </button>
          {waiting > 0 && <p className="text-ink-2">What was entered last is not saved yet; it is signed after that.</p>}
        </div>
      )}
      {complaint && <p role="alert">{complaint}</p>}
    </Section>
  )
}
