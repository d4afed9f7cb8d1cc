'use client'
import { createContext, type ReactNode, useContext, useMemo, useState } from 'react'
import type { UnitSystem } from '@/core/quantity/format'
import type { RegionId } from '@/core/region/types'
import type { Settings } from '@/core/settings'
import { api } from './api'

const Context = createContext<{ settings: Settings; change: (patch: Partial<Settings>) => void } | null>(null)

export function SettingsProvider({ initial, children }: { initial: Settings; children: ReactNode }) {
  const [settings, setSettings] = useState(initial)
  const value = useMemo(
    () => ({
      settings,
      change: (patch: Partial<Settings>) => {
        const next = { ...settings, ...patch }
        setSettings(next)
        document.documentElement.dataset.theme = next.theme
        void api('POST', '/api/settings', patch)
      },
    }),
    [settings],
  )
  return <Context value={value}>{children}</Context>
}

export function useSettings() {
  const value = useContext(Context)
  if (!value) throw new Error('useSettings outside SettingsProvider')
  return value
}

/** The units to show a world's job in. */
export function unitsFor(setting: Settings['units'], region: RegionId): UnitSystem {
  if (setting !== 'world') return setting
  return region === 'north-america' ? 'imperial' : 'metric'
}
