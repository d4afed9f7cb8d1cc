import { useEffect } from 'react'
import type { SheetId, StageId } from '@/core/report/stages'
import { useJob } from '../sync/context'

/** Picks what a lead to this sheet is about, as `way:ID`, each time one is followed. */
export function useLed<Stage extends StageId>(stage: Stage, sheet: SheetId<Stage>, pick: (kind: string, id: string) => void): void {
  const led = useJob((s) => s.led)
  const taken = useJob((s) => s.taken)
  const { at } = led?.lead.stage === stage && led.lead.sheet === sheet ? led.lead : {}
  // With no list of what it depends on: what was picked is taken, and there is nothing to do at the next.
  useEffect(() => {
    if (at === undefined) return
    const colon = at.indexOf(':')
    pick(at.slice(0, Math.max(colon, 0)) || at, at.slice(colon + 1))
    taken()
  })
}
