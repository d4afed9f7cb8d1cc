'use client'
import { useMemo } from 'react'
import { isOf, type Photograph, type Photographed, photographsOf } from '@/core/verify/photograph'
import { useJob } from '../sync/context'

export interface SeenPhotograph extends Photograph {
  /** Where the picture is read from: the server, or this device while it waits. */
  readonly src: string
  readonly waiting: boolean
}

/** Photographs of one thing, or of all, as they stand with what waits on this device. */
export function usePhotographs(of: Photographed | null): readonly SeenPhotograph[] {
  const job = useJob((s) => s.id)
  const rows = useJob((s) => s.photographs)
  const pending = useJob((s) => s.pending)
  const [kind, id] = [of?.kind, of?.id]
  return useMemo(() => {
    const known = new Set(rows.map((r) => r.id))
    const acts = pending.flatMap((a) => (a.kind === 'photograph' && !known.has(a.id) ? [a] : []))
    const data = new Map(acts.flatMap(({ row }) => (row.data ? [[row.photograph, row.data] as const] : [])))
    const waiting = acts.map(({ row: { data: _, ...row }, at }) => ({
      moment: null,
      mark: null,
      unmarked: null,
      ...row,
      at,
      by: '',
      hash: '',
      widthPx: 1,
      heightPx: 1,
    }))
    return photographsOf([...rows, ...waiting])
      .filter((p) => kind === undefined || id === undefined || isOf({ kind, id }, p))
      .map((p) => {
        const here = data.get(p.photograph)
        const src = here ? `data:image/jpeg;base64,${here}` : `/api/jobs/${job}/photographs/${p.photograph}`
        return { ...p, src, waiting: here !== undefined }
      })
  }, [job, rows, pending, kind, id])
}
