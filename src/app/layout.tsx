import type { Metadata, Viewport } from 'next'
import type { ReactNode } from 'react'
import type { Settings } from '@/core/workday/settings'
import { signedIn, store, storageTroubleHere } from '@/server/data'
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

export default async function RootLayout({ children }: { children: ReactNode }) {
  const settings = settingsOrTrouble()
  if (typeof settings === 'string') return <Troubled message={settings} />
  return (
    <html lang="en" data-theme={settings.theme}>
      <body>
        <SettingsProvider initial={settings} person={await signedIn()}>
          {children}
        </SettingsProvider>
      </body>
    </html>
  )
}

/** How the application is set, or what befell the place where that is kept. */
function settingsOrTrouble(): Settings | string {
  try {
    return loadSettings(store())
  } catch (e) {
    const trouble = storageTroubleHere(e)
    if (!trouble) throw e
    return trouble.message
  }
}

/** Instead of any page, where nothing can be read or kept. */
function Troubled({ message }: { message: string }) {
  return (
    <html lang="en" data-theme="system">
      <body>
        <main className="mx-auto max-w-[44rem] p-6">
          <h1 className="text-xl font-bold">What is kept cannot be reached</h1>
          <p role="alert" className="mt-3">
            {message}
          </p>
          <p className="mt-3">What was done on this device and not acknowledged waits on it, and is sent when the server is well again.</p>
          <a className="btn mt-4" href="">
            Try again
          </a>
        </main>
      </body>
    </html>
  )
}
