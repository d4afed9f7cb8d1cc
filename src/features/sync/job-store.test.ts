import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Patch } from 'immer'
import { applyEdit, type Edit, patchJob } from '@/core/job/edits'
import { type Job, newJob } from '@/core/job/schema'
import { newPoint } from '@/core/job/point'
import { newWay } from '@/core/job/board'
import type { Reading } from '@/core/job/reading'
import type { LoadedJob } from './job-state'
import { createJobStore } from './job-store'
import type { Act } from './act'
import type { Outbox } from './outbox'

/** The shelf of a device that outlives pages. */
function shelf(): Outbox & { readonly acts: Act[] } {
  const acts: Act[] = []
  const asides = new Map<string, string>()
  return {
    acts,
    keep: (_, act) => Promise.resolve(void acts.push(act)),
    drop: (_, id) =>
      Promise.resolve(
        void (
          acts.some((a) => a.id === id) &&
          acts.splice(
            acts.findIndex((a) => a.id === id),
            1,
          )
        ),
      ),
    left: () => Promise.resolve([...acts]),
    setAside: (_, id, why) => Promise.resolve(void (why === null ? asides.delete(id) : asides.set(id, why))),
    asides: () => Promise.resolve(new Map(asides)),
  }
}

interface Sent {
  readonly seen: number
  readonly by?: string
  readonly over?: readonly string[]
}

/** A server of one job, with a revision, that may be out of reach. */
function server(job: Job) {
  let state: LoadedJob = {
    id: 'j',
    revision: 1,
    job,
    readings: [],
    undo: null,
    redo: null,
    updatedAt: '2026-11-20T08:00:00.000Z',
  }
  const log: { path: string; revision: number }[] = []
  const undone: Patch[][] = []
  const control = {
    reachable: true,
    /** An edit that touches nothing of what others did is done on a later revision too. */
    merges: (_: Edit): boolean => false,
    /** What an edit is answered instead of being done; null: it is done. */
    refuse: (_: Edit): { status: number; body: unknown } | null => null,
    /** Answers to changes wait for it. */
    held: Promise.resolve(),
    /** Answers about its state wait for it. */
    asked: Promise.resolve(),
    log,
    bodies: [] as Sent[],
    get: () => state,
    elsewhere: (edit: Edit) => (state = { ...state, job: applyEdit(state.job, edit).job, revision: state.revision + 1 }),
  }
  const reply = (status: number, body: unknown) => ({ ok: status < 400, status, json: () => Promise.resolve(body) })
  vi.stubGlobal('fetch', async (url: string, init: { method: string; body: string }) => {
    if (!control.reachable) throw new TypeError('offline')
    if (init.method === 'GET') {
      await control.asked
      return reply(200, JSON.parse(JSON.stringify({ ...state, patches: [], from: 0 })))
    }
    const { revision, edit, held, ...reading } = JSON.parse(init.body) as { revision: number; edit?: Edit; held: number } & Reading
    const path = url.split('/').at(-1)!
    log.push({ path, revision })
    if (path === 'edits') control.bodies.push(JSON.parse(init.body) as Sent)
    if (path === 'readings') {
      state = { ...state, readings: [...state.readings, reading] }
      return reply(200, JSON.parse(JSON.stringify({ from: held, readings: state.readings.slice(held) })))
    }
    if (revision !== state.revision && !(path === 'edits' && control.merges(edit!))) return reply(409, { current: state, since: [] })
    let patches: Patch[] = []
    const no = path === 'edits' ? control.refuse(edit!) : null
    if (no) return reply(no.status, no.body)
    if (path === 'edits') {
      const made = applyEdit(state.job, edit!)
      undone.push(made.inverse)
      patches = made.patches
      state = { ...state, job: made.job, revision: revision + 1, undo: { label: 'x', stage: 'brief' } }
    } else if (path === 'undo') {
      patches = undone.pop() ?? []
      state = { ...state, job: patchJob(state.job, patches), revision: revision + 1 }
    }
    const { job: _, readings: __, ...rest } = state
    const answer = reply(200, JSON.parse(JSON.stringify({ ...rest, patches })))
    await control.held
    return answer
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
const open = (here: ReturnType<typeof server>) => createJobStore(here.get(), device)

let device: ReturnType<typeof shelf>
beforeEach(() => {
  vi.useFakeTimers()
  device = shelf()
})
afterEach(() => {
  vi.unstubAllGlobals()
  vi.useRealTimers()
})
const settle = () => vi.advanceTimersByTimeAsync(0)

describe('edits on their way', () => {
  it('wait for what was left on the device, which was done before them', async () => {
    const here = server(start())
    device.acts.push({ id: 'left', at: '2026-11-20T08:00:00.000Z', seen: 1, kind: 'edit', edit: name('left before') })
    const store = open(here)
    void store.getState().takeUp()
    store.getState().commit(name('done now'))
    await settle()
    expect(here.get().job.title).toBe('done now')
    expect(here.log).toHaveLength(2)
    expect(device.acts).toEqual([])
  })
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

  it('are judged once: an answer that says what is here already, and what waits behind it, change nothing', async () => {
    const here = server(start())
    const store = open(here)
    store.getState().commit({ kind: 'building.set', patch: { forbid: ['attic'] } })
    store.getState().commit(name('two'))
    const { job, report } = store.getState()
    await settle()
    expect(store.getState()).toMatchObject({ saving: 'saved', saved: { revision: 3 } })
    expect(store.getState().job).toBe(job)
    expect(store.getState().report).toBe(report)
    // What the server says otherwise is taken, and judged.
    here.elsewhere(name('theirs'))
    await store.getState().catchUp({ revision: 4, readings: 0, photographs: 0, deleted: false })
    expect(store.getState().job.title).toBe('theirs')
    expect(store.getState().report).not.toBe(report)
  })

  it('wait while the server is away, and are kept on the device until it has them', async () => {
    const here = server(start())
    const store = open(here)
    here.reachable = false
    store.getState().commit(seen('s1'))
    await settle()
    expect(store.getState().saving).toBe('unreachable')
    expect(device.acts).toMatchObject([{ seen: 1, kind: 'edit', edit: { kind: 'observation.add' } }])
    here.reachable = true
    await vi.advanceTimersByTimeAsync(2500)
    expect(store.getState().saving).toBe('saved')
    expect(device.acts).toEqual([])
  })

  it('that a closed page left are sent when the job is opened again, once', async () => {
    const here = server(start())
    here.reachable = false
    open(here).getState().commit(seen('s1'))
    await settle()
    here.reachable = true
    const again = open(here)
    await again.getState().takeUp()
    await settle()
    expect(here.get().job.observations.map((s) => s.id)).toEqual(['s1'])
    expect(device.acts).toEqual([])
    await again.getState().takeUp()
    await settle()
    expect(here.log).toHaveLength(1)
  })

  it('that are stale are shown beside the other version, and nothing is written', async () => {
    const here = server(start())
    const store = open(here)
    here.elsewhere(name('theirs'))
    store.getState().commit(name('mine'))
    await settle()
    expect(store.getState().conflict).toMatchObject({ mine: [{ edit: { patch: { title: 'mine' } } }], current: { revision: 2 } })
    expect(here.get().job.title).toBe('theirs')
    store.getState().settleConflict('mine')
    // It is not saved before the server has answered.
    expect(store.getState().saving).toBe('saving')
    await settle()
    expect(here.get().job.title).toBe('mine')
  })

  it('that do not clash go on while what clashes waits for a decision, and say what they had seen', async () => {
    const here = server(start())
    const store = open(here)
    here.elsewhere(name('theirs'))
    const place = { kind: 'job.set', patch: { place: 'cellar' } } as const
    here.merges = (e) => e.kind === 'job.set' && e.patch.place !== undefined
    store.getState().commit(name('mine'))
    store.getState().commit(place)
    await settle()
    expect(here.get().job).toMatchObject({ title: 'theirs', place: 'cellar' })
    const { conflict, pending, job } = store.getState()
    expect(conflict?.mine.map((a) => a.kind === 'edit' && a.edit)).toEqual([name('mine')])
    expect(pending).toEqual([])
    expect(job.title).toBe('mine')
    // What was done is judged by what its hand had seen, its own acts before it set aside.
    expect(device.acts).toHaveLength(1)
    expect(here.bodies.map((b) => [b.seen, b.over?.length ?? 0])).toEqual([
      [1, 0],
      [1, 1],
    ])
  })
  it.each([
    [403, null],
    [413, { error: { path: '', message: 'Too large.' } }],
    [422, { error: { path: 'title', message: 'No such title.' } }],
  ])('that the server does not take (%i) stay on the device, hold back nothing, and are sent again or given up', async (status, body) => {
    const here = server(start())
    here.refuse = (e) => (e.kind === 'job.set' && e.patch.title === 'bad' ? { status, body } : null)
    const store = open(here)
    store.getState().commit(name('bad'))
    store.getState().commit({ kind: 'job.set', patch: { place: 'cellar' } })
    await settle()
    expect(here.get().job.place).toBe('cellar')
    expect(store.getState()).toMatchObject({ pending: [], saving: 'refused' })
    expect(store.getState().refused).toHaveLength(1)
    expect(device.acts).toHaveLength(1)
    // A page opened later shows it too, and does not send it by itself.
    const later = open(here)
    await later.getState().takeUp()
    expect(later.getState()).toMatchObject({ pending: [], saving: 'refused' })
    here.refuse = () => null
    later.getState().settleRefused('again')
    await settle()
    expect(here.get().job.title).toBe('bad')
    expect(device.acts).toEqual([])
    expect(later.getState()).toMatchObject({ refused: [], saving: 'saved' })
  })
  it('that are made while another is being set aside are sent too', async () => {
    const here = server(start())
    here.refuse = (e) => (e.kind === 'job.set' && e.patch.title === 'bad' ? { status: 422, body: null } : null)
    const slow: Outbox = {
      ...device,
      setAside: async (...of) => {
        store.getState().commit({ kind: 'job.set', patch: { place: 'attic' } })
        await device.setAside(...of)
      },
    }
    const store = createJobStore(here.get(), slow)
    store.getState().commit(name('bad'))
    await settle()
    expect(here.get().job.place).toBe('attic')
    expect(store.getState()).toMatchObject({ pending: [], saving: 'refused' })
  })
  it('that the server is asked for too often are sent after a while', async () => {
    const here = server(start())
    let times = 0
    here.refuse = () => (times++ === 0 ? { status: 429, body: null } : null)
    const store = open(here)
    store.getState().commit(name('once more'))
    await settle()
    expect(here.get().job.title).toBe('x')
    expect(store.getState().saving).toBe('unreachable')
    await vi.advanceTimersByTimeAsync(2500)
    expect(here.get().job.title).toBe('once more')
    expect(store.getState().refused).toEqual([])
  })
  it('carry who did them', async () => {
    const here = server(start())
    here.reachable = false
    const store = createJobStore(here.get(), device, { by: 'Ada' })
    store.getState().commit(name('one'))
    store.getState().actAs('Ben')
    store.getState().commit(name('two'))
    here.reachable = true
    await vi.advanceTimersByTimeAsync(5000)
    expect(here.bodies.map((b) => b.by)).toEqual(['Ada', 'Ben'])
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

describe('what others did', () => {
  const standing = (here: ReturnType<typeof server>) => ({
    revision: here.get().revision,
    readings: here.get().readings.length,
    photographs: 0,
    deleted: false,
  })
  it('stays, though an answer from before it comes after it', async () => {
    const here = server(start())
    const store = open(here)
    let answerAsked = () => {}
    let answerOwn = () => {}
    here.asked = new Promise((resolve) => (answerAsked = resolve))
    here.held = new Promise((resolve) => (answerOwn = resolve))
    // Asked for before the own edit is sent, answered after another hand wrote on top of it.
    const asked = store.getState().catchUp({ ...standing(here), revision: 9 })
    store.getState().commit({ kind: 'job.set', patch: { place: 'mine' } })
    await settle()
    here.elsewhere(name('theirs'))
    answerAsked()
    await asked
    answerOwn()
    await settle()
    expect(store.getState().saved).toMatchObject({ revision: 3, job: { title: 'theirs', place: 'mine' } })
  })
  it('while two versions stood beside each other comes after the choice', async () => {
    const here = server(start())
    const store = open(here)
    here.elsewhere(name('theirs'))
    store.getState().commit(name('mine'))
    await settle()
    here.elsewhere(name('theirs again'))
    await store.getState().catchUp(standing(here))
    store.getState().settleConflict('theirs')
    await vi.advanceTimersByTimeAsync(50)
    expect(store.getState().job.title).toBe('theirs again')
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

describe('readings', () => {
  const reading = (id: string) => ({
    id,
    circuit: 'c1',
    point: null,
    test: 'iso-lock',
    value: null,
    mark: 'yes' as const,
    unit: '',
    instrument: '',
    note: '',
    corrects: null,
    on: null,
  })
  it('are sent again where an answer was cut off in the middle', async () => {
    const here = server(start())
    const store = open(here)
    const whole = globalThis.fetch
    vi.stubGlobal('fetch', async (...asked: Parameters<typeof fetch>) => {
      vi.stubGlobal('fetch', whole)
      return { ...(await whole(...asked)), ok: true, json: () => Promise.reject(new SyntaxError('Unexpected end of JSON input')) }
    })
    store.getState().addReading(reading('r'))
    await settle()
    expect(store.getState().saving).toBe('unreachable')
    await vi.advanceTimersByTimeAsync(3000)
    expect(store.getState().saving).toBe('saved')
    expect(device.acts).toEqual([])
  })
  it('wait in order with the edits, are shown at once with the time they were taken, and are sent once', async () => {
    const here = server(start())
    const store = open(here)
    here.reachable = false
    store.getState().addReading(reading('r1'))
    await vi.advanceTimersByTimeAsync(60_000)
    store.getState().commit(name('then'))
    store.getState().addReading(reading('r2'))
    await settle()
    expect(device.acts.map((a) => (a.kind === 'edit' ? 'edit' : a.id))).toEqual(['r1', 'edit', 'r2'])
    const [first, , last] = device.acts
    expect(Date.parse(last!.at) - Date.parse(first!.at)).toBeGreaterThanOrEqual(60_000)
    here.reachable = true
    await vi.advanceTimersByTimeAsync(5000)
    expect(here.log.map((l) => l.path)).toEqual(['readings', 'edits', 'readings'])
    expect(here.get().readings.map((r) => [r.id, r.at])).toEqual([
      ['r1', first!.at],
      ['r2', last!.at],
    ])
    expect(device.acts).toEqual([])
    expect(store.getState().saving).toBe('saved')
  })
  it('are not held up by a conflict of edits', async () => {
    const here = server(start())
    const store = open(here)
    here.elsewhere(name('theirs'))
    store.getState().commit(name('mine'))
    store.getState().addReading(reading('r1'))
    await vi.advanceTimersByTimeAsync(50)
    // While a person has not decided yet: mine still is on the page, and the reading is on the server.
    expect(store.getState().conflict?.mine).toHaveLength(1)
    expect(store.getState().job.title).toBe('mine')
    expect(here.get().readings.map((r) => r.id)).toEqual(['r1'])
    expect(device.acts).toHaveLength(1)
    store.getState().settleConflict('theirs')
    await vi.advanceTimersByTimeAsync(50)
    expect(store.getState().job.title).toBe('theirs')
    expect(device.acts).toEqual([])
  })
})
