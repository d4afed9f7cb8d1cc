import { notFound } from 'next/navigation'
import { signedIn, store } from '@/server/data'
import { JobsView } from '@/features/jobs/jobs-view'
import { listJobs, PAGE_SIZE } from '@/store/jobs'

export default async function JobsPage({ searchParams }: { searchParams: Promise<Record<string, string | string[] | undefined>> }) {
  const query = await searchParams
  const search = typeof query.q === 'string' ? query.q : ''
  const wanted = query.page ?? '1'
  if (typeof wanted !== 'string' || !/^[1-9]\d{0,6}$/.test(wanted)) notFound()
  const page = Number(wanted)
  const deleted = query.deleted === '1'
  const { rows, total } = listJobs(store(), { search, page, deleted })
  if (page > 1 && rows.length === 0) notFound()
  return (
    <JobsView
      rows={rows}
      total={total}
      page={page}
      pages={Math.max(1, Math.ceil(total / PAGE_SIZE))}
      search={search}
      deleted={deleted}
      person={await signedIn()}
    />
  )
}
