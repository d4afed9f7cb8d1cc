'use client'
import { createContext, type ReactNode, useContext, useEffect, useMemo, useState } from 'react'
import type { Settings } from '@/core/workday/settings'
import { api, ApiError } from './api'

const Context = createContext<{
  settings: Settings
  /** Who signed in; null on the machine itself. */
  person: string | null
  change: (patch: Partial<Settings>) => void
} | null>(null)

/** Settings chosen on this device that the server has not answered. */
const UNSENT = 'synthema.settings'
function unsent(): Partial<Settings> {
  try {
    return JSON.parse(localStorage.getItem(UNSENT) ?? '{}') as Partial<Settings>
  } catch {
    return {}
  }
}
async function send(patch: Partial<Settings>): Promise<void> {
  try {
    localStorage.setItem(UNSENT, JSON.stringify(patch))
  } catch {
    // A device that keeps nothing has them until the page is left.
  }
  try {
    await api('POST', '/api/settings', patch, true)
    localStorage.removeItem(UNSENT)
  } catch (e) {
    if (!(e instanceof ApiError)) throw e
    // Not such a setting any more: it is not tried for ever.
    if (e.status === 400 || e.status === 422) localStorage.removeItem(UNSENT)
  }
}

export function SettingsProvider({ initial, person, children }: { initial: Settings; person: string | null; children: ReactNode }) {
  const [settings, setSettings] = useState(initial)
  // What was chosen without a connection holds here at once, and is sent when there is one.
  useEffect(() => {
    const kept = unsent()
    if (Object.keys(kept).length === 0) return
    setSettings((s) => ({ ...s, ...kept }))
    if (kept.theme) document.documentElement.dataset.theme = kept.theme
    const again = () => void send(unsent())
    again()
    window.addEventListener('online', again)
    return () => window.removeEventListener('online', again)
  }, [])
  const value = useMemo(
    () => ({
      settings,
      person,
      change: (patch: Partial<Settings>) => {
        const next = { ...settings, ...patch }
        setSettings(next)
        document.documentElement.dataset.theme = next.theme
        // A page reloaded right after finds it as it was chosen; what cannot be sent is kept on this device.
        void send({ ...unsent(), ...patch })
      },
    }),
    [settings, person],
  )
  return <Context value={value}>{children}</Context>
}

export function useSettings() {
  const value = useContext(Context)
  if (!value) throw new Error('useSettings outside SettingsProvider')
  return value
}
