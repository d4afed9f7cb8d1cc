'use client'
import { QRCodeSVG } from 'qrcode.react'
import { useEffect, useState } from 'react'
import { api, ApiError } from '@/ui/api'
import { SidePanel } from '@/ui/side-panel'

/** This job, at this stage, on the phone in one's pocket: a code to point its camera at. */
export function PhonePanel({ onClose }: { onClose: () => void }) {
  const [addresses, setAddresses] = useState<string[] | null>(null)
  const [authority, setAuthority] = useState<string | null>(null)
  const [problem, setProblem] = useState('')
  useEffect(() => {
    api<{ addresses: string[]; authority: string | null }>('GET', '/api/reach').then(
      (r) => (setAddresses(r.addresses), setAuthority(r.authority)),
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
      {authority && addresses?.[0] && <Authority fingerprint={authority} address={`${addresses[0]}/authority.crt`} />}
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

/** How a device comes to know this server: the certificate of its authority, and the fingerprint to know that one by. */
function Authority({ fingerprint, address }: { fingerprint: string; address: string }) {
  return (
    <section className="mt-4 border-t border-rule pt-3">
      <h3>So that the phone knows this server</h3>
      <p className="mt-1">
        Its browser warns of a certificate it does not know. While the page is open everything works, and what is done waits on the phone if
        the connection goes; only once the phone trusts this server’s authority does the page also open without a connection.
      </p>
      <figure className="mt-2">
        <QRCodeSVG value={address} size={140} marginSize={4} title={address} bgColor="#ffffff" fgColor="#000000" />
        <figcaption className="text-[0.9rem]">
          <a href="/authority.crt" className="underline">
            The authority’s certificate
          </a>
          , to install on the phone. Compare its SHA-256 fingerprint with this one, and this one with the terminal’s:
          <span className="mt-1 block font-mono text-[0.8rem] break-all">{fingerprint}</span>
        </figcaption>
      </figure>
    </section>
  )
}
