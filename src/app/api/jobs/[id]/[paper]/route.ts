import { randomUUID } from 'node:crypto'
import { unitsFor } from '@/core/workday/settings'
import { store } from '@/server/data'
import { mayBeMade, paperInPool } from '@/server/paper-pool'
import { download, downloadFile, route } from '@/server/respond'
import { historyOf, jobAtIssue, lastSigned, loadJob } from '@/store/jobs'
import { pictures } from '@/store/photographs'
import { stock } from '@/store/stock'
import { loadSettings } from '@/store/settings'

const pictured: ReadonlySet<string> = new Set(['photographs.pdf', 'pack.pdf', 'archive.zip'])
const kept: ReadonlySet<string> = new Set(['pack.pdf', 'archive.zip'])
const MOST_HISTORY = 5000

export const GET = route<{ params: Promise<{ id: string; paper: string }> }>(async (request, { params }) => {
  const { id, paper } = await params
  mayBeMade(paper)
  const query = new URL(request.url).searchParams
  const issue = query.get('issue')
  const stored = issue === null ? loadJob(store(), id) : jobAtIssue(store(), id, Number(issue))
  const { units, minutes, abbreviations } = loadSettings(store())
  const wanted = {
    stored,
    units: unitsFor(units, stored.job.region),
    minutes,
    abbreviations,
    circuit: query.get('circuit'),
    point: query.get('point'),
    ...(paper === 'door.pdf' && issue === null ? { signed: lastSigned(store(), id) } : {}),
    ...(paper === 'needed.csv' ? { van: stock(store()) } : {}),
    ...(pictured.has(paper) ? { photographs: pictures(store(), id) } : {}),
    ...(kept.has(paper) ? { history: historyOf(store(), id, MOST_HISTORY), parts: query.get('parts')?.split(',') ?? null } : {}),
  }
  const made = await paperInPool(paper, wanted, request.signal, query.get('ask') ?? randomUUID())
  if (!made) return Response.json({ error: { path: 'paper', message: `There is no paper called ${paper}.` } }, { status: 404 })
  const name = `${stored.job.title}-${made.name}`
  if ('file' in made) return downloadFile(made.file, made.type, name)
  return download(typeof made.body === 'string' ? made.body : new Uint8Array(made.body), made.type, name)
})
