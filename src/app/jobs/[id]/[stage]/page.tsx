import { notFound } from 'next/navigation'
import { stageIds } from '@/core/report/stages'
import { StageView } from '@/app/jobs/[id]/[stage]/stage-view'

export default async function StagePage({ params }: { params: Promise<{ stage: string }> }) {
  const { stage } = await params
  const known = stageIds.find((s) => s === stage)
  if (!known) notFound()
  return <StageView stage={known} />
}
