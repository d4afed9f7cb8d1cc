import { notFound } from 'next/navigation'
import { stageIds } from '@/core/stages'
import { StageView } from '@/features/job/stage-view'

export default async function StagePage({ params }: { params: Promise<{ stage: string }> }) {
  const { stage } = await params
  const known = stageIds.find((s) => s === stage)
  if (!known) notFound()
  return <StageView stage={known} />
}
