'use client'
import { Broken } from '@/ui/broken'
import './globals.css'

/** The frame itself failed. */
export default function FrameError({ error }: { error: Error }) {
  return (
    <html lang="en" data-theme="system">
      <body>
        <Broken message={error.message} retry={() => window.location.reload()} />
      </body>
    </html>
  )
}
