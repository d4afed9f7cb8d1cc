'use client'
import dynamic from 'next/dynamic'
import type { ComponentType } from 'react'
import type { StageId } from '@/core/stages'

/** Each stage is its own chunk; only the one in front of the person is loaded. */
const views: Record<StageId, ComponentType> = {
  brief: dynamic(() => import('../brief/brief-view').then((m) => m.BriefView)),
  survey: dynamic(() => import('../survey/survey-view').then((m) => m.SurveyView)),
  circuit: dynamic(() => import('../circuit/circuit-view').then((m) => m.CircuitView)),
  boxes: dynamic(() => import('../boxes/boxes-view').then((m) => m.BoxesView)),
  wiring: dynamic(() => import('../wiring/wiring-view').then((m) => m.WiringView)),
  test: dynamic(() => import('../test/test-view').then((m) => m.TestView)),
  handover: dynamic(() => import('../handover/handover-view').then((m) => m.HandoverView)),
}

export function StageView({ stage }: { stage: StageId }) {
  const View = views[stage]
  return <View />
}
