'use client'
import { type FormEvent, useState } from 'react'
import { api, ApiError } from '@/ui/api'

/** A visitor from another machine says who they are, and the passphrase set where the server was started. */
export function SignIn({ to }: { to: string }) {
  const [name, setName] = useState('')
  const [passphrase, setPassphrase] = useState('')
  const [problem, setProblem] = useState<{ path: string; message: string } | null>(null)
  const [busy, setBusy] = useState(false)
  const submit = async (e: FormEvent) => {
    e.preventDefault()
    setBusy(true)
    setProblem(null)
    try {
      await api('POST', '/api/sign-in', { name, passphrase })
      window.location.assign(to)
    } catch (e) {
      if (!(e instanceof ApiError)) throw e
      setProblem({ path: e.path, message: e.message })
      setBusy(false)
    }
  }
  const field = (id: 'name' | 'passphrase', label: string, value: string, set: (v: string) => void, more: object) => (
    <div className="mb-3">
      <label htmlFor={id} className="mb-0.5 block text-[0.9rem] text-ink-2">
        {label}
      </label>
      <input id={id} className="field" value={value} onChange={(e) => set(e.target.value)} aria-invalid={problem?.path === id} {...more} />
      {problem?.path === id && (
        <p role="alert" className="font-bold text-error">
          {problem.message}
        </p>
      )}
    </div>
  )
  return (
    <main className="mx-auto flex min-h-dvh max-w-sm flex-col justify-center px-5">
      <h1 className="mb-1 text-2xl">Synthema</h1>
      <p className="mb-5 text-ink-2">You come from another machine. The passphrase is the one set where the server was started.</p>
      <form onSubmit={(e) => void submit(e)} aria-label="Sign in">
        {field('name', 'Your name (shown on your changes)', name, setName, {
          maxLength: 120,
          autoComplete: 'name',
          autoFocus: true,
        })}
        {field('passphrase', 'Passphrase', passphrase, setPassphrase, {
          type: 'password',
          maxLength: 1000,
          autoComplete: 'current-password',
        })}
        {problem && problem.path !== 'name' && problem.path !== 'passphrase' && (
          <p role="alert" className="mb-3 font-bold text-error">
            {problem.message}
          </p>
        )}
        <button type="submit" className="btn btn-ink w-full" disabled={busy}>
          Sign in
        </button>
      </form>
    </main>
  )
}
