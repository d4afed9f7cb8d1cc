'use client'
import Link from 'next/link'
import { useState } from 'react'
import { deviceJobs, unsentHere } from '../sync/outbox'
import { api } from '@/ui/api'
import { TextField } from '@/ui/fields'
import { useSettings } from '@/ui/settings'
import { BackupLine } from './backup'

const units = [
  ['world', 'Units as used there'],
  ['metric', 'Metric'],
  ['imperial', 'Imperial'],
] as const
const themes = [
  ['system', 'Light or dark by system'],
  ['light', 'Light'],
  ['dark', 'Dark'],
] as const

async function leave() {
  await api('DELETE', '/api/sign-in')
  // Jobs last seen are nobody's any more on this device; what waits to be sent stays, under the name of who did it.
  await deviceJobs.forgetAll().catch(() => {})
  if ('caches' in window) await Promise.all([caches.delete('shells'), caches.delete('list')])
  window.location.assign('/sign-in')
}

/** Signing out, which asks where something done here was not sent yet. */
function SignOut() {
  const [waiting, setWaiting] = useState<number | null>(null)
  const ask = async () => {
    const unsent = await unsentHere().catch(() => 0)
    if (unsent === 0) await leave()
    else setWaiting(unsent)
  }
  if (waiting === null)
    return (
      <button type="button" className="btn" onClick={() => void ask()}>
        Sign out
      </button>
    )
  return (
    <span role="alert" className="flex flex-wrap items-center gap-2">
      {waiting === 1 ? 'One thing' : `${waiting} things`} done on this device {waiting === 1 ? 'is' : 'are'} not saved yet. They stay here
      under your name and are sent once someone signs in and opens the job.
      <button type="button" className="btn" onClick={() => void leave()}>
        Sign out all the same
      </button>
      <button type="button" className="btn" onClick={() => setWaiting(null)}>
        Stay
      </button>
    </span>
  )
}

/** Settings a person makes once; plain selects at the foot of the page. */
export function SettingsBar({ deleted, person }: { deleted: boolean; person: string | null }) {
  const { settings, change } = useSettings()
  return (
    <>
      <BackupLine />
      <footer className="mt-6 flex flex-wrap items-end gap-x-4 gap-y-2 border-t border-rule pt-3 text-[0.9rem]">
        <div className="w-80 max-md:w-full">
          {person === null ? (
            <TextField
              label="Your name (shown on changes and readings)"
              value={settings.name}
              onCommit={(name) => change({ name: name.slice(0, 120) })}
              placeholder="Your name"
            />
          ) : (
            <p className="flex items-center gap-3">
              <span>
                Signed in as <b>{person}</b>
              </span>
              <SignOut />
            </p>
          )}
        </div>
        <label className="w-44">
          <span className="mb-0.5 block text-ink-2">Units</span>
          <select className="field" value={settings.units} onChange={(e) => change({ units: e.target.value as (typeof units)[number][0] })}>
            {units.map(([v, n]) => (
              <option key={v} value={v}>
                {n}
              </option>
            ))}
          </select>
        </label>
        <label className="w-48">
          <span className="mb-0.5 block text-ink-2">Page</span>
          <select
            className="field"
            value={settings.theme}
            onChange={(e) => change({ theme: e.target.value as (typeof themes)[number][0] })}
          >
            {themes.map(([v, n]) => (
              <option key={v} value={v}>
                {n}
              </option>
            ))}
          </select>
        </label>
        <Link href="/due" prefetch={false} className="ml-auto flex tap items-center underline">
          Due again
        </Link>
        <Link href={deleted ? '/' : '/?deleted=1'} prefetch={false} className="flex tap items-center underline">
          {deleted ? 'Back to the jobs' : 'Deleted jobs'}
        </Link>
        <a href="/schema/job.json" className="flex tap items-center underline">
          Schema of a Job file
        </a>
      </footer>
    </>
  )
}
