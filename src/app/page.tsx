import { notFound } from 'next/navigation'
import { listed } from '@/server/counting'
import { hand, signedIn, store } from '@/server/data'
import { demoJobs } from '@/core/demo/demo'
import { regionIds } from '@/core/region/types'
import { stageIds } from '@/core/report/stages'
import { JobsView } from '@/features/jobs/jobs-view'
import { hitsIn, PAGE_SIZE } from '@/store/jobs'

export default async function JobsPage({ searchParams }: { searchParams: Promise<Record<string, string | string[] | undefined>> }) {
  const query = await searchParams
  const wanted = query.page ?? '1'
  if (typeof wanted !== 'string' || !/^[1-9]\d{0,6}$/.test(wanted)) notFound()
  const page = Number(wanted)
  const shown = {
    search: typeof query.q === 'string' ? query.q : '',
    world: regionIds.find((r) => r === query.world) ?? '',
    stage: stageIds.find((s) => s === query.stage) ?? '',
    wrong: query.wrong === '1',
    mine: query.mine === '1',
    deleted: query.deleted === '1',
  }
  const { rows, total, pending } = listed({ ...shown, page, ...(shown.mine ? { waitsFor: (await hand()).by } : {}) })
  if (page > 1 && rows.length === 0) notFound()
  const found = shown.search
    ? rows.map((row) => ({ ...row, hits: shown.deleted || row.setAside !== null ? [] : hitsIn(store(), row.id, shown.search) }))
    : rows
  return (
    <JobsView
      rows={found}
      total={total}
      page={page}
      pending={pending}
      pages={Math.max(1, Math.ceil(total / PAGE_SIZE))}
      shown={shown}
      demos={demoJobs.map(({ id, title, place, region, about }) => ({ id, title, place, region, about }))}
      person={await signedIn()}
    />
  )
}
