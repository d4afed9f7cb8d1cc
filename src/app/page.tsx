import { signedIn, store } from '@/server/data'
import { JobsView } from '@/features/jobs/jobs-view'
import { listJobs, PAGE_SIZE } from '@/store/jobs'

export default async function JobsPage({ searchParams }: { searchParams: Promise<Record<string, string | string[] | undefined>> }) {
  const query = await searchParams
  const search = typeof query.q === 'string' ? query.q : ''
  const page = Math.max(1, Math.trunc(Number(query.page)) || 1)
  const deleted = query.deleted === '1'
  const { rows, total } = listJobs(store(), { search, page, deleted })
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
