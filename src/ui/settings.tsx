'use client'
import { createContext, type ReactNode, useContext, useMemo, useState } from 'react'
import type { Settings } from '@/core/workday/settings'
import { api } from './api'

const Context = createContext<{
  settings: Settings
  /** Who signed in; null on the machine itself. */
  person: string | null
  change: (patch: Partial<Settings>) => void
} | null>(null)

export function SettingsProvider({ initial, person, children }: { initial: Settings; person: string | null; children: ReactNode }) {
  const [settings, setSettings] = useState(initial)
  const value = useMemo(
    () => ({
      settings,
      person,
      change: (patch: Partial<Settings>) => {
        const next = { ...settings, ...patch }
        setSettings(next)
        document.documentElement.dataset.theme = next.theme
        // A page reloaded right after finds it as it was chosen.
        void api('POST', '/api/settings', patch, true)
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
