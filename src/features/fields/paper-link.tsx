'use client'
import { LoaderCircle } from 'lucide-react'
import { type MouseEvent, type ReactNode, useEffect, useRef, useState } from 'react'
import { ApiError, api, fetched } from '@/ui/api'

interface Props {
  readonly job: string
  /** The file, with what is asked of it. */
  readonly file: string
  readonly name: string
  readonly className: string
  readonly children: ReactNode
}

type Making = { readonly said: string } | { readonly problem: string } | null

/** A paper to be had: while it is made it is said how far it is, and it can be left. */
export function PaperLink({ job, file, name, className, children }: Props) {
  const [making, setMaking] = useState<Making>(null)
  const leaving = useRef<AbortController | null>(null)
  useEffect(() => () => leaving.current?.abort(), [])
  const url = `/api/jobs/${job}/${file}`
  const get = async (e: MouseEvent) => {
    // A new window, or a link saved: the browser does that by itself.
    if (e.metaKey || e.ctrlKey || e.shiftKey) return
    e.preventDefault()
    if (leaving.current) return
    leaving.current = new AbortController()
    const ask = crypto.randomUUID()
    setMaking({ said: 'being made' })
    const looking = setInterval(() => void howFar(ask).then((said) => leaving.current && said && setMaking({ said })), 500)
    try {
      await save(await fetched(`${url}${file.includes('?') ? '&' : '?'}ask=${ask}`, leaving.current.signal))
      setMaking(null)
    } catch (e) {
      const left = leaving.current.signal.aborted
      setMaking(left ? null : { problem: e instanceof ApiError ? e.message : 'It could not be made.' })
    } finally {
      clearInterval(looking)
      leaving.current = null
    }
  }
  return (
    <>
      <a href={url} className={className} onClick={(e) => void get(e)} aria-busy={making !== null && 'said' in making}>
        {children}
      </a>
      {making && 'said' in making && (
        <span role="status" className="flex flex-wrap items-center gap-2 px-3 py-1 text-[0.9rem]">
          <LoaderCircle size={16} aria-hidden className="motion-safe:animate-spin" />
          {name}: {making.said}
          <button type="button" className="btn" onClick={() => leaving.current?.abort()}>
            Cancel
          </button>
        </span>
      )}
      {making && 'problem' in making && (
        <span role="alert" className="block px-3 py-1 text-[0.9rem] font-bold text-error">
          {name}: {making.problem}
        </span>
      )}
    </>
  )
}

async function howFar(ask: string): Promise<string | null> {
  try {
    const { before, written } = await api<{ before: number; written: number }>('GET', `/api/papers/${ask}`)
    if (before > 0) return before === 1 ? 'after one other' : `after ${before} others`
    return written === 0 ? 'being laid out' : `${Math.round(written * 100)} % written`
  } catch {
    return null
  }
}

/** Gives the browser a file to keep, by the name the server gave it. */
async function save(response: Response): Promise<void> {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(await response.blob())
  link.download = /filename="([^"]+)"/.exec(response.headers.get('content-disposition') ?? '')?.[1] ?? 'paper'
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000)
}
