'use client'
import type { ReactNode } from 'react'
import { Stage } from '@/ui/panel'
import { CircuitPicker } from '../job/circuit-picker'

/** The frame of a sheet about one circuit: the picker with what can be added, the drawing below, the working beside it. */
export function CircuitStage({ tools, working, children }: { tools?: ReactNode; working: ReactNode; children: ReactNode }) {
  return (
    <Stage
      title="Circuit"
      drawing={
        <div className="flex flex-col gap-3">
          <div className="flex flex-wrap items-center gap-2">
            <CircuitPicker />
            {tools}
          </div>
          {children}
        </div>
      }
      working={working}
    />
  )
}
