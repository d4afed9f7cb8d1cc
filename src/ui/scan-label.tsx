'use client'
import { Camera } from 'lucide-react'
import { type RefObject, useEffect, useRef, useState } from 'react'
import { labelPath } from '@/core/documents/label-tape'
import { SidePanel } from './side-panel'

type Reader = typeof import('jsqr').default
type Picture = HTMLVideoElement | ImageBitmap

/** Sides a picture is reduced to before it is read, in pixels: a near code is found in the small one, a distant one in the large. */
const SIDES = [640, 1600] as const
/** Between two looks through the camera, in milliseconds. */
const BETWEEN_MS = 250

const loadReader = (): Promise<Reader> => import('jsqr').then((m) => m.default)

/** The text of the QR code in a picture (ISO/IEC 18004), or null. */
function textIn(picture: Picture, wide: number, high: number, side: number, read: Reader): string | null {
  const scale = Math.min(1, side / Math.max(wide, high))
  const canvas = document.createElement('canvas')
  canvas.width = Math.max(1, Math.round(wide * scale))
  canvas.height = Math.max(1, Math.round(high * scale))
  const pen = canvas.getContext('2d', { willReadFrequently: true })
  if (!pen) return null
  pen.drawImage(picture, 0, 0, canvas.width, canvas.height)
  return read(pen.getImageData(0, 0, canvas.width, canvas.height).data, canvas.width, canvas.height)?.data || null
}

/** Reads a photograph at each side until a code is found. */
async function textInPhotograph(file: File): Promise<string | null> {
  const [read, picture] = await Promise.all([loadReader(), createImageBitmap(file)])
  try {
    for (const side of SIDES) {
      const text = textIn(picture, picture.width, picture.height, side, read)
      if (text) return text
    }
    return null
  } finally {
    picture.close()
  }
}

/** Looks through the camera until the page goes, and hands over what it reads. @returns where it is shown, and why there is no picture */
function useCamera(onText: (text: string) => void): { video: RefObject<HTMLVideoElement | null>; why: string | null } {
  const video = useRef<HTMLVideoElement>(null)
  const [why, setWhy] = useState<string | null>(null)
  const found = useRef(onText)
  useEffect(() => {
    found.current = onText
  })
  useEffect(() => {
    let over = false
    let stream: MediaStream | null = null
    let timer: ReturnType<typeof setTimeout> | undefined
    const look = (read: Reader) => {
      const view = video.current
      if (over || !view) return
      const text = view.videoWidth > 0 ? textIn(view, view.videoWidth, view.videoHeight, SIDES[0], read) : null
      if (text) found.current(text)
      timer = setTimeout(() => look(read), BETWEEN_MS)
    }
    const start = async () => {
      // Browsers give the camera only to pages that came over TLS or from this machine.
      if (!navigator.mediaDevices) return setWhy('The browser gives no camera to a page that did not come over HTTPS.')
      try {
        const [read, opened] = await Promise.all([
          loadReader(),
          navigator.mediaDevices.getUserMedia({ video: { facingMode: 'environment' }, audio: false }),
        ])
        stream = opened
        if (over || !video.current) return opened.getTracks().forEach((t) => t.stop())
        video.current.srcObject = opened
        await video.current.play()
        look(read)
      } catch (e) {
        if (!over) setWhy(whyNot(e))
      }
    }
    void start()
    return () => {
      over = true
      clearTimeout(timer)
      stream?.getTracks().forEach((t) => t.stop())
    }
  }, [])
  return { video, why }
}

/** Why a camera gives no picture. */
function whyNot(e: unknown): string {
  const name = e instanceof DOMException ? e.name : ''
  if (name === 'NotAllowedError') return 'The camera was not allowed for this page: allow it in the browser’s settings of this site.'
  if (name === 'NotFoundError' || name === 'OverconstrainedError') return 'There is no camera on this device.'
  if (name === 'NotReadableError') return 'The camera is in use by another program.'
  return 'The camera could not be started.'
}

/** Reads the QR code of a label through the camera or from a photograph, and goes to the circuit that the label names. */
export function ScanLabel({ onFound, onClose }: { onFound: (path: string) => void; onClose: () => void }) {
  const picker = useRef<HTMLInputElement>(null)
  const [notice, setNotice] = useState('')
  const done = useRef(false)
  const take = (text: string) => {
    const path = labelPath(text)
    if (path === null) return setNotice(`That code is not from one of our labels. It reads: ${text.slice(0, 200)}`)
    if (done.current) return
    done.current = true
    onClose()
    onFound(path)
  }
  const { video, why } = useCamera(take)
  const fromPhotograph = async (file: File) => {
    setNotice('Reading the photograph…')
    try {
      const text = await textInPhotograph(file)
      if (text) take(text)
      else setNotice(`No QR code was found in ${file.name}. Photograph the label closer, straight on, in even light.`)
    } catch {
      setNotice(`${file.name} could not be read as a picture.`)
    }
  }
  return (
    <SidePanel open onClose={onClose} title="Scan a label">
      <p className="text-ink-2">Point the camera at the QR code on a label printed from here. Its circuit opens.</p>
      {why === null ? (
        <video ref={video} muted playsInline aria-label="Camera view" className="my-3 aspect-[4/3] w-full bg-ink object-cover" />
      ) : (
        <p role="status" className="my-3 border-l-4 border-rule-2 pl-3">
          {why} A photograph of the label works too.
        </p>
      )}
      <p role="status" aria-live="polite" className="my-2 break-words">
        {notice}
      </p>
      <button type="button" className="btn" onClick={() => picker.current?.click()}>
        <Camera size={17} aria-hidden /> Read it from a photograph
      </button>
      <input
        ref={picker}
        type="file"
        accept="image/*"
        capture="environment"
        className="hidden"
        aria-label="Photograph of a label"
        onChange={(e) => {
          const file = e.target.files?.[0]
          e.target.value = ''
          if (file) void fromPhotograph(file)
        }}
      />
    </SidePanel>
  )
}
