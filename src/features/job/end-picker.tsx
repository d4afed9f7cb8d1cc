'use client'
import { useState } from 'react'
import type { EndReport } from '@/core/evaluate'
import { useCircuit } from './context'

/** Where it stands, short enough for a list. */
const at = ({ where, count }: EndReport): string => (count > 2 ? `${count} points` : where)

/** Which kind of accessory of the circuit is in hand; the choice stands only where there are several. */
export function useEnd(): { end: EndReport; picker: React.ReactNode } {
  const { ends } = useCircuit()
  const [picked, setPicked] = useState<string | null>(null)
  const end = ends.find((e) => e.id === picked) ?? ends[0]!
  const picker = ends.length > 1 && (
    <>
      <label className="sr-only" htmlFor="end-in-hand">
        Accessory in hand
      </label>
      <select id="end-in-hand" className="field no-print min-w-0 max-w-96" value={end.id ?? ''} onChange={(e) => setPicked(e.target.value || null)}>
        {ends.map((e) => (
          <option key={e.id ?? ''} value={e.id ?? ''}>
            {at(e)}: {e.fitted?.name}
          </option>
        ))}
      </select>
    </>
  )
  return { end, picker }
}

/** How an edit names an accessory of the circuit. */
export const atEnd = ({ id }: EndReport): { end?: string } => (id === null ? {} : { end: id })
