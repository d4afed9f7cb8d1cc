'use client'
import type { EndReport } from '@/core/evaluate/evaluate'
import type { SheetId, StageId } from '@/core/report/stages'
import { useCircuit, useJob } from '../sync/context'
import { useLed } from './use-led'

/** Where it is, short enough for a list. */
const at = ({ where, points }: EndReport): string => (points.length > 2 ? `${points.length} points` : where)
const key = ({ points }: EndReport): string => points[0] ?? ''

/**
 * Which points of the circuit are in hand on a sheet, those together that are alike; the choice is only where there are several kinds.
 */
export function useEnd<Stage extends StageId>(stage: Stage, sheet: SheetId<Stage>): { end: EndReport; picker: React.ReactNode } {
  const { ends } = useCircuit()
  const picked = useJob((s) => s.boxInHand)
  const pick = useJob((s) => s.pickBox)
  useLed(stage, sheet, (_, id) => pick(id))
  const end = ends.find((e) => picked !== null && (e.built?.id === picked || e.points.includes(picked))) ?? ends[0]!
  const picker = ends.length > 1 && (
    <>
      <label className="sr-only" htmlFor="end-in-hand">
        Points you work on
      </label>
      <select id="end-in-hand" className="field no-print min-w-0 max-w-96" value={key(end)} onChange={(e) => pick(e.target.value || null)}>
        {ends.map((e) => (
          <option key={key(e)} value={key(e)}>
            {at(e)}: {e.joint ? 'joint box' : (e.fitted?.name ?? 'nothing chosen')}
            {e.lead ? `, ${e.cables} ${e.cables === 1 ? 'cable' : 'cables'}` : `, in the box of ${e.built?.points[0]?.name ?? 'another'}`}
          </option>
        ))}
      </select>
    </>
  )
  return { end, picker }
}
