import { readFileSync } from 'node:fs'
import type { APIRequestContext } from '@playwright/test'
import { test } from './support/test'
import { expect } from './support/expect'

const watts = (amount: number) => ({ kind: 'load.set', circuit: 'c1', patch: { amount } })
const make = async (request: APIRequestContext, title = 'By program'): Promise<string> =>
  (await (await request.post('/api/jobs', { data: { region: 'united-kingdom', title, place: 'Village hall' } })).json()).id
const edit = (request: APIRequestContext, id: string, revision: number, e: unknown) =>
  request.post(`/api/jobs/${id}/edits`, { data: { revision, edit: e } })

test('edits, undo and redo by program', async ({ request }) => {
  const id = await make(request)
  const first = await (await edit(request, id, 1, watts(100))).json()
  expect(first).toMatchObject({ revision: 2, undo: { label: 'Load 100', stage: 'circuit' }, redo: null })
  // The answer carries what changed, not the job.
  expect(first).not.toHaveProperty('job')
  expect(first.patches).toEqual([{ op: 'replace', path: ['circuits', 0, 'load', 'amount'], value: 100 }])
  const undone = await (await request.post(`/api/jobs/${id}/undo`, { data: { revision: 2 } })).json()
  expect(undone.patches).toMatchObject([{ path: ['circuits', 0, 'load', 'amount'], value: null }])
  const again = await (await request.post(`/api/jobs/${id}/redo`, { data: { revision: 3 } })).json()
  expect(again.patches).toMatchObject([{ value: 100 }])
  expect((await (await request.get(`/api/jobs/${id}`)).json()).job.circuits[0].load.amount).toBe(100)
  const history = await (await request.get(`/api/jobs/${id}/history`)).json()
  expect(history.map((h: { kind: string }) => h.kind)).toEqual(['redo', 'undo', 'edit', 'create'])
})

test('a stale edit is refused with both sides', async ({ request }) => {
  const id = await make(request)
  await edit(request, id, 1, watts(100))
  const stale = await edit(request, id, 1, watts(200))
  expect(stale.status()).toBe(409)
  const body = await stale.json()
  expect(body.current.job.circuits[0].load.amount).toBe(100)
  expect(body.since.map((s: { label: string }) => s.label)).toEqual(['Load 100'])
})

test('bad edits name their field and change nothing', async ({ request }) => {
  const id = await make(request)
  const cases: [unknown, string][] = [
    [{ kind: 'load.set', circuit: 'c1', patch: { amount: -1 } }, 'edit.patch.amount'],
    [{ kind: 'load.set', circuit: 'c1', patch: { colour: 1 } }, 'edit.patch.colour'],
    [{ kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory: 'na-duplex-15' } }, 'patch.accessory'],
    [{ kind: 'load.set', circuit: 'nowhere', patch: {} }, 'circuit'],
    [{ kind: 'explode' }, 'edit.kind'],
    [{ kind: 'job.set', patch: { title: ' ' } }, 'edit.patch.title'],
  ]
  for (const [e, path] of cases) {
    const response = await edit(request, id, 1, e)
    expect(response.status()).toBe(422)
    expect((await response.json()).error.path).toBe(path)
  }
  expect((await (await request.get(`/api/jobs/${id}`)).json()).revision).toBe(1)
})

test('what is not there is not found', async ({ request }) => {
  for (const path of ['/api/jobs/none', '/api/jobs/none/history', '/api/jobs/none/record.pdf', '/api/jobs/former-dairy/secret.txt'])
    expect((await request.get(path)).status()).toBe(404)
  expect((await request.delete('/api/jobs/none')).status()).toBe(404)
  expect((await request.post('/api/jobs/none/undelete', { data: {} })).status()).toBe(404)
})

test('an upload over 10 MB is cut off, and what is no JSON is said to be none', async ({ request }) => {
  const big = await request.post('/api/jobs/import', {
    data: Buffer.alloc(11 * 1024 * 1024, 32),
    headers: { 'content-type': 'application/json' },
  })
  expect(big.status()).toBe(413)
  const none = await request.post('/api/jobs/import', { data: Buffer.from('{'), headers: { 'content-type': 'application/json' } })
  expect(none.status()).toBe(400)
})

test('readings are given time and hand by the server, once each', async ({ request }) => {
  const id = await make(request)
  const reading = {
    id: 'r1',
    circuit: 'c1',
    point: null,
    on: null,
    test: 'polarity',
    value: null,
    mark: 'yes',
    unit: '',
    instrument: '',
    note: '=1+1',
    corrects: null,
  }
  await request.post(`/api/jobs/${id}/readings`, { data: reading })
  const twice = await (await request.post(`/api/jobs/${id}/readings`, { data: reading })).json()
  // Something else under its name is refused, and never answered as if it were kept.
  expect((await request.post(`/api/jobs/${id}/readings`, { data: { ...reading, mark: 'no' } })).status()).toBe(409)
  expect(twice.readings.length).toBe(1)
  expect(twice.readings[0]).toMatchObject({ mark: 'yes', at: expect.stringMatching(/^20\d\d-/) })
  const forged = await request.post(`/api/jobs/${id}/readings`, { data: { ...reading, id: 'r2', at: '1999-01-01T00:00:00.000Z' } })
  expect(forged.status()).toBe(422)
  const late = new Date(Date.now() - 3600_000).toISOString()
  const offline = await request.post(`/api/jobs/${id}/readings`, { data: { ...reading, id: 'r3', at: late } })
  expect((await offline.json()).readings.at(-1).at).toBe(late)
  const ahead = await request.post(`/api/jobs/${id}/readings`, { data: { ...reading, id: 'r4', at: '2999-01-01T00:00:00.000Z' } })
  expect(Date.parse((await ahead.json()).readings.at(-1).at)).toBeLessThanOrEqual(Date.now())
  const csv = await (await request.get(`/api/jobs/${id}/readings.csv`)).text()
  expect(csv).toContain("'=1+1")
})

test('the schema of a Job file is served, and the file has what it asks for', async ({ request }) => {
  const schema = await (await request.get('/schema/job.json')).json()
  expect(schema.required).toEqual(['format', 'version', 'job', 'readings'])
  const file = JSON.parse(readFileSync('tests/support/job-file.json', 'utf8'))
  expect(Object.keys(file.job).toSorted()).toEqual(schema.properties.job.required.toSorted())
})

test('an accessory of another world, a device that is not there and a box of neither are refused at their field', async ({ request }) => {
  const id = await make(request)
  const point = {
    id: 'p1',
    name: 'By the hatch',
    from: null,
    lengthM: 4,
    watts: 60,
    leg: 'A',
    size: null,
    fuseA: 3,
    outlets: 0,
    accessory: 'uk-fcu',
    guardsOn: false,
    place: null,
    environment: null,
    nearWater: null,
    outOfReach: null,
    appliance: null,
    fitted: null,
  }
  const { from, lengthM, size, ...what } = point
  expect((await edit(request, id, 1, { kind: 'circuit-point.add', circuit: 'c1', points: [point] })).status()).toBe(200)
  const refused: [unknown, string][] = [
    [{ kind: 'circuit-point.set', circuit: 'c1', id: 'p1', patch: { accessory: 'na-duplex-20' } }, 'patch.accessory'],
    [{ kind: 'circuit-point.add', circuit: 'c1', points: [{ ...point, id: 'p2', accessory: 'za-socket-16' }] }, 'points.0.accessory'],
    [{ kind: 'box.set', boxes: ['p1', 'p9'], patch: { others: 2 } }, 'boxes.1'],
    [{ kind: 'box.set', boxes: ['p1'], patch: { kind: 'na-4-square' } }, 'patch.kind'],
    [{ kind: 'circuit.connect', circuit: 'c1', residual: 'nobody' }, 'residual'],
    [{ kind: 'design.set', circuit: 'c1', design: 'a', patch: { selectiveKa: 0 } }, 'patch.selectiveKa'],
  ]
  for (const [one, path] of refused) {
    const response = await edit(request, id, 2, one)
    expect(response.status(), path).toBe(422)
    expect((await response.json()).error.path).toContain(path)
  }
  const { job, revision } = await (await request.get(`/api/jobs/${id}`)).json()
  expect(revision).toBe(2)
  expect(job.points).toEqual([expect.objectContaining(what)])
  expect(job.cables).toEqual([
    expect.objectContaining({ from: { kind: 'board', id: 'main' }, to: { kind: 'point', id: 'p1' }, circuit: 'c1', lengthM, size }),
  ])
})

test('settings take only what they know', async ({ request }) => {
  expect((await request.post('/api/settings', { data: { units: 'cubits' } })).status()).toBe(422)
  expect((await request.post('/api/settings', { data: { sound: true } })).status()).toBe(422)
})

test('every calculator refuses nothing at all with a path, over HTTP', async ({ request }) => {
  for (const name of [
    'ampacity',
    'voltage-drop',
    'select-circuit',
    'box-fill',
    'fault-loop',
    'raceway-fill',
    'raceway-bends',
    'pvc-expansion',
    'bored-hole',
    'outlet-spacing',
    'ring-continuity',
    'dwelling-demand',
    'trace',
  ]) {
    const response = await request.post(`/api/calc/${name}`, { data: {} })
    expect(response.status(), name).toBe(422)
    expect((await response.json()).error.path, name).not.toBe('')
  }
})

test('a strange page of the list is none, and a search of any length is answered', async ({ request }) => {
  for (const page of ['0', '-1', '1.5', 'x', '99999999', '1e9', '5000'])
    expect((await request.get(`/?page=${page}`)).status(), page).toBe(404)
  expect((await request.get('/?page=1')).status()).toBe(200)
  const long = await request.get(`/?q=${encodeURIComponent('kiln '.repeat(1000))}`)
  expect(long.status()).toBe(200)
})
