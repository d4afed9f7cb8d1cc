import { randomUUID } from 'node:crypto'
import { unitsFor } from '@/core/workday/settings'
import { store } from '@/server/data'
import { paperInPool } from '@/server/paper-pool'
import { download, route } from '@/server/respond'
import { loadJob } from '@/store/jobs'
import { pictures } from '@/store/photographs'
import { stock } from '@/store/stock'
import { loadSettings } from '@/store/settings'

export const GET = route<{ params: Promise<{ id: string; paper: string }> }>(async (request, { params }) => {
  const { id, paper } = await params
  const stored = loadJob(store(), id)
  const query = new URL(request.url).searchParams
  const { units, minutes } = loadSettings(store())
  const wanted = {
    stored,
    units: unitsFor(units, stored.job.region),
    minutes,
    circuit: query.get('circuit'),
    point: query.get('point'),
    ...(paper === 'needed.csv' ? { van: stock(store()) } : {}),
    ...(paper === 'photographs.pdf' ? { photographs: pictures(store(), id) } : {}),
  }
  const made = await paperInPool(paper, wanted, request.signal, query.get('ask') ?? randomUUID())
  if (!made) return Response.json({ error: { path: 'paper', message: `There is no paper called ${paper}.` } }, { status: 404 })
  return download(typeof made.body === 'string' ? made.body : new Uint8Array(made.body), made.type, `${stored.job.title}-${made.name}`)
})
