import { redirect } from 'next/navigation'
import { store } from '@/server/data'
import { stageOf } from '@/store/jobs'

/** A job opens where the work is. */
export default async function JobPage({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params
  redirect(`/jobs/${id}/${stageOf(store(), id) ?? 'brief'}`)
}
