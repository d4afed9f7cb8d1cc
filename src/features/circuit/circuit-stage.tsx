'use client'
import type { ReactNode } from 'react'
import { Stage } from '@/ui/panel'

/** The frame of a sheet about one circuit: what can be added, the drawing below, the working beside it. */
export function CircuitStage({ tools, working, children }: { tools?: ReactNode; working: ReactNode; children: ReactNode }) {
  return (
    <Stage
      title="Circuit"
      drawing={
        <div className="flex flex-col gap-3">
          {tools && <div className="flex flex-wrap items-center gap-2">{tools}</div>}
          {children}
        </div>
      }
      working={working}
    />
  )
}
