'use client'
import { useEffect, useState } from 'react'
import type { BackupState } from '@/core/base/backup-state'
import { api, ApiError } from '@/ui/api'
import { formatWhen } from '@/ui/when'

const DAY_MS = 24 * 3600 * 1000
/** How long ago, as people say it. */
function ago(iso: string, now = Date.now()): string {
  const days = Math.floor((now - Date.parse(iso)) / DAY_MS)
  return days < 1 ? formatWhen(iso) : days === 1 ? 'yesterday' : `${days} days ago`
}
const size = (bytes: number): string => (bytes < 1e6 ? `${Math.ceil(bytes / 1e3)} kB` : `${(bytes / 1e6).toFixed(1)} MB`)

/** How old the newest backup is, one to be made now, and the file itself to be taken elsewhere. */
export function BackupLine() {
  const [state, setState] = useState<BackupState | null>(null)
  const [busy, setBusy] = useState(false)
  const [complaint, setComplaint] = useState<string | null>(null)
  useEffect(() => {
    const away = new AbortController()
    api<BackupState>('GET', '/api/backup', undefined, false, away.signal).then(setState, () => {})
    return () => away.abort()
  }, [])
  const make = async () => {
    setBusy(true)
    setComplaint(null)
    try {
      setState(await api<BackupState>('POST', '/api/backup'))
    } catch (e) {
      setComplaint(e instanceof ApiError ? e.message : String(e))
    } finally {
      setBusy(false)
    }
  }
  if (!state) return null
  const { last, old, every } = state
  const failed = complaint ?? state.failed
  return (
    <section aria-label="Backup" className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-1 text-[0.9rem]">
      <span role="status" className={old ? 'border-l-4 border-ink pl-2 font-bold' : ''}>
        {last ? `Last backup: ${ago(last.at)}, ${size(last.bytes)}` : 'No backup of these jobs was made yet'}
        {every ? `; one every ${every}` : ''}
        {old ? '. Make one, and keep it on another disk.' : '.'}
      </span>
      <button type="button" className="btn" disabled={busy || state.running} onClick={() => void make()}>
        {busy || state.running ? 'Being made…' : 'Back up now'}
      </button>
      {last && (
        <a href={`/api/backup?file=${encodeURIComponent(last.name)}`} download={last.name} className="tap underline">
          Download it
        </a>
      )}
      {failed && (
        <span role="alert" className="w-full">
          The last backup was not made: {failed}
        </span>
      )}
    </section>
  )
}
