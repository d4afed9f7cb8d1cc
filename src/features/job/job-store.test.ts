import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Patch } from 'immer'
import { applyEdit, type Edit, patchJob } from '@/core/job/edits'
import { type Job, newJob } from '@/core/job/schema'
import { newPoint } from '@/core/job/point'
import { newWay } from '@/core/job/board'
import { createJobStore, type LoadedJob } from './job-store'
import { dropUnsent, keepUnsent, takeUnsent } from './unsent'

/** A device's storage that outlives pages, or a tab's. */
function storage(): Storage {
  const map = new Map<string, string>()
  return new Proxy({} as Storage, {
    get: (_, key: string) =>
      (
        ({
          getItem: (k: string) => map.get(k) ?? null,
          setItem: (k: string, v: string) => void map.set(k, v),
          removeItem: (k: string) => void map.delete(k),
        }) as Record<string, unknown>
      )[key],
    ownKeys: () => [...map.keys()],
    getOwnPropertyDescriptor: () => ({ enumerable: true, configurable: true }),
  })
}

/** A server of one job, with a revision, that may be out of reach. */
function server(job: Job) {
  let state: LoadedJob = {
    id: 'j',
    revision: 1,
    job,
    readings: [],
    undoLabel: null,
    redoLabel: null,
    updatedAt: '2026-11-20T08:00:00.000Z',
  }
  const log: { path: string; revision: number }[] = []
  const undone: Patch[][] = []
  const control = {
    reachable: true,
    log,
    get: () => state,
    elsewhere: (edit: Edit) => (state = { ...state, job: applyEdit(state.job, edit).job, revision: state.revision + 1 }),
  }
  const reply = (status: number, body: unknown) => ({ ok: status < 400, status, json: () => Promise.resolve(body) })
  vi.stubGlobal('fetch', (url: string, init: { body: string }) => {
    if (!control.reachable) return Promise.reject(new TypeError('offline'))
    const { revision, edit } = JSON.parse(init.body) as { revision: number; edit?: Edit }
    const path = url.split('/').at(-1)!
    log.push({ path, revision })
    if (revision !== state.revision) return Promise.resolve(reply(409, { current: state, since: [] }))
    let patches: Patch[] = []
    if (path === 'edits') {
      const made = applyEdit(state.job, edit!)
      undone.push(made.inverse)
      patches = made.patches
      state = { ...state, job: made.job, revision: revision + 1, undoLabel: 'x' }
    } else if (path === 'undo') {
      patches = undone.pop() ?? []
      state = { ...state, job: patchJob(state.job, patches), revision: revision + 1 }
    }
    const { job: _, readings: __, ...rest } = state
    return Promise.resolve(reply(200, JSON.parse(JSON.stringify({ ...rest, patches }))))
  })
  return control
}

const start = (): Job => {
  const job = newJob('united-kingdom', 'x', '')
  return { ...job, ways: [newWay('w', 'Way')], points: [...job.points, newPoint('p', 'Point')] }
}
const name = (title: string): Edit => ({ kind: 'job.set', patch: { title } })
const seen = (id: string): Edit => ({
  kind: 'observation.add',
  items: [
    {
      id,
      at: '2026-11-20T08:00:00.000Z',
      instrument: 'contact',
      withdrawn: false,
      seen: { kind: 'breaker-off', breaker: 'w', dead: ['p'] },
    },
  ],
})
const open = (here: ReturnType<typeof server>) => createJobStore(here.get())

let device: Storage
beforeEach(() => {
  vi.useFakeTimers()
  device = storage()
  vi.stubGlobal('localStorage', device)
  vi.stubGlobal('sessionStorage', storage())
})
afterEach(() => {
  vi.unstubAllGlobals()
  vi.useRealTimers()
})
const settle = () => vi.advanceTimersByTimeAsync(0)

describe('edits on their way', () => {
  it('show at once, go one after another on the revision each was made on, and are then saved', async () => {
    const here = server(start())
    const store = open(here)
    store.getState().commit(name('one'))
    store.getState().commit(name('two'))
    expect(store.getState().job.title).toBe('two')
    expect(store.getState().saving).toBe('saving')
    await settle()
    expect(store.getState().saving).toBe('saved')
    expect(here.log.map((l) => l.revision)).toEqual([1, 2])
    expect(here.get().job.title).toBe('two')
  })

  it('leave alone what they did not touch: the same objects, down to the report of a circuit', async () => {
    const here = server(start())
    const store = open(here)
    const { saved, report } = store.getState()
    store.getState().commit(name('one'))
    await settle()
    const after = store.getState()
    expect(after.saved.job.title).toBe('one')
    for (const part of ['circuits', 'points', 'ways', 'cables', 'boards'] as const) expect(after.saved.job[part]).toBe(saved.job[part])
    expect(after.report.circuits[0]!.chosen).toBe(report.circuits[0]!.chosen)
    await store.getState().undo()
    expect(store.getState().saved.job).toEqual(saved.job)
  })

  it('wait while the server is away, and are kept on the device until it has them', async () => {
    const here = server(start())
    const store = open(here)
    here.reachable = false
    store.getState().commit(seen('s1'))
    await settle()
    expect(store.getState().saving).toBe('unreachable')
    expect(takeUnsent('j')).toMatchObject({ revision: 1, edits: [{ kind: 'observation.add' }] })
    here.reachable = true
    await vi.advanceTimersByTimeAsync(2500)
    expect(store.getState().saving).toBe('saved')
    expect(takeUnsent('j')).toBeNull()
  })

  it('that a closed page left are sent when the job is opened again, once', async () => {
    const here = server(start())
    here.reachable = false
    open(here).getState().commit(seen('s1'))
    await settle()
    here.reachable = true
    const again = open(here)
    again.getState().takeUp()
    await settle()
    expect(here.get().job.observations.map((s) => s.id)).toEqual(['s1'])
    expect(takeUnsent('j')).toBeNull()
    again.getState().takeUp()
    await settle()
    expect(here.log).toHaveLength(1)
  })

  it('that are stale are shown beside the other version, and nothing is written', async () => {
    const here = server(start())
    const store = open(here)
    here.elsewhere(name('theirs'))
    store.getState().commit(name('mine'))
    await settle()
    expect(store.getState().conflict).toMatchObject({ mine: [{ patch: { title: 'mine' } }], current: { revision: 2 } })
    expect(here.get().job.title).toBe('theirs')
    store.getState().settleConflict('mine')
    await settle()
    expect(here.get().job.title).toBe('mine')
  })

  it('that only add what was seen are put on top of whatever was written meanwhile', async () => {
    const here = server(start())
    const store = open(here)
    here.elsewhere(name('theirs'))
    here.elsewhere(seen('other'))
    store.getState().commit(seen('mine'))
    await settle()
    expect(store.getState().conflict).toBeNull()
    expect(here.get().job.observations.map((s) => s.id)).toEqual(['other', 'mine'])
    expect(store.getState().job.title).toBe('theirs')
  })
})

describe('undo', () => {
  it('goes as many steps as it was pressed, however fast', async () => {
    const here = server(start())
    const store = open(here)
    for (const t of ['a', 'b', 'c']) store.getState().commit(name(t))
    void store.getState().undo()
    void store.getState().undo()
    await vi.advanceTimersByTimeAsync(50)
    expect(store.getState().conflict).toBeNull()
    expect(here.get().job.title).toBe('a')
    expect(store.getState().job.title).toBe('a')
  })

  it('waits for what is still on its way', async () => {
    const here = server(start())
    const store = open(here)
    store.getState().commit(name('a'))
    void store.getState().undo()
    await vi.advanceTimersByTimeAsync(50)
    expect(here.log.map((l) => l.path)).toEqual(['edits', 'undo'])
  })
})

describe('what is unsent', () => {
  it('of two tabs stays apart, until one has been silent for long', () => {
    keepUnsent('j', 3, [name('mine')])
    const tabs = [sessionStorage, storage()]
    vi.stubGlobal('sessionStorage', tabs[1])
    expect(takeUnsent('j')).toBeNull()
    vi.advanceTimersByTime(20_000)
    const left = takeUnsent('j')!
    expect(left).toMatchObject({ revision: 3 })
    dropUnsent(left.key)
    expect(takeUnsent('j')).toBeNull()
  })

  it('of one job is not taken for another', () => {
    keepUnsent('j', 1, [name('x')])
    expect(takeUnsent('jj')).toBeNull()
    keepUnsent('j', 1, [])
    expect(takeUnsent('j')).toBeNull()
  })
})
