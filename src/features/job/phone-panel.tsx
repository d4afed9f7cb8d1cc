'use client'
import { QRCodeSVG } from 'qrcode.react'
import { useEffect, useState } from 'react'
import { api, ApiError } from '@/ui/api'
import { SidePanel } from '@/ui/panel'

/** This job, at this stage, on the phone in one's pocket: a code to point its camera at. */
export function PhonePanel({ onClose }: { onClose: () => void }) {
  const [addresses, setAddresses] = useState<string[] | null>(null)
  const [problem, setProblem] = useState('')
  useEffect(() => {
    api<{ addresses: string[] }>('GET', '/api/reach').then(
      (r) => setAddresses(r.addresses),
      (e: unknown) => setProblem(e instanceof ApiError ? e.message : String(e)),
    )
  }, [])
  const path = window.location.pathname + window.location.search
  return (
    <SidePanel open onClose={onClose} title="On the phone">
      {problem && <p role="alert">{problem}</p>}
      {addresses?.map((a) => (
        <figure key={a} className="mb-5">
          <QRCodeSVG value={a + path} size={220} marginSize={4} title={a + path} bgColor="#ffffff" fgColor="#000000" />
          <figcaption className="mt-1 text-[0.9rem] break-all">{a + path}</figcaption>
        </figure>
      ))}
      {addresses && addresses.length > 0 && (
        <p className="text-ink-2">
          The phone must be on the same network. It asks for a name and for the passphrase once. The network is trusted no further than
          that: use it in a place whose network is yours.
        </p>
      )}
      {addresses?.length === 0 && (
        <>
          <p>This server listens on its own machine only, so no phone can reach it.</p>
          <p className="mt-2">
            To open it to the network of the house, stop it and start it with a passphrase of your own, eight letters or more:
          </p>
          <p className="mt-2 font-mono text-[0.85rem] break-words">HOST=0.0.0.0 PASSPHRASE=… npm run demo</p>
        </>
      )}
    </SidePanel>
  )
}
