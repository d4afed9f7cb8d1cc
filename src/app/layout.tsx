import type { Metadata, Viewport } from 'next'
import type { ReactNode } from 'react'
import { store } from '@/server/data'
import { loadSettings } from '@/store/settings'
import { SettingsProvider } from '@/ui/settings'
import './globals.css'

export const metadata: Metadata = {
  title: { default: 'Synthema', template: '%s · Synthema' },
  description: 'From a request for power to a tested, documented circuit.',
}
export const viewport: Viewport = { width: 'device-width', initialScale: 1 }
/** Every page carries a nonce of its own, so none is made ahead of time. */
export const dynamic = 'force-dynamic'

export default function RootLayout({ children }: { children: ReactNode }) {
  const settings = loadSettings(store())
  return (
    <html lang="en" data-theme={settings.theme}>
      <body>
        <SettingsProvider initial={settings}>{children}</SettingsProvider>
      </body>
    </html>
  )
}
