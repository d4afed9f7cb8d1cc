'use client'
import dynamic from 'next/dynamic'
import type { ComponentType } from 'react'
import type { StageId } from '@/core/report/stages'

/** Each stage is its own chunk; only the one in front of the person is loaded. */
const views: Record<StageId, ComponentType> = {
  brief: dynamic(() => import('../../../../features/brief/brief-view').then((m) => m.BriefView)),
  survey: dynamic(() => import('../../../../features/survey/survey-view').then((m) => m.SurveyView)),
  circuit: dynamic(() => import('../../../../features/circuit/circuit-view').then((m) => m.CircuitView)),
  route: dynamic(() => import('../../../../features/route/route-view').then((m) => m.RouteView)),
  boxes: dynamic(() => import('../../../../features/boxes/boxes-stage').then((m) => m.BoxesStage)),
  wiring: dynamic(() => import('../../../../features/wiring/wiring-stage').then((m) => m.WiringStage)),
  day: dynamic(() => import('../../../../features/day/day-view').then((m) => m.DayView)),
  test: dynamic(() => import('../../../../features/test/test-stage').then((m) => m.TestStage)),
  handover: dynamic(() => import('../../../../features/handover/handover-view').then((m) => m.HandoverView)),
}

export function StageView({ stage }: { stage: StageId }) {
  const View = views[stage]
  return <View />
}
