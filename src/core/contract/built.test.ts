import type { BoxRecord } from '../job/box'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { dice, editBy } from '../../../tests/support/any-edit'
import { wiringJobs } from '../../../tests/support/wiring-jobs'
import { anyJob } from '../../../tests/support/any-job'
import { accessory, sharing } from '../catalogue/accessories'
import { demoJobs } from '../demo/demo'
import { evaluate } from '../evaluate/evaluate'
import { read } from '../installation/installation'
import { applyEdit, type Edit } from '../job/edits'
import { EditError } from '../job/part'
import { type Job, newJob } from '../job/schema'
import { worlds } from '../region/worlds'
import { builtOf } from './built'

/* One build, one story: what every part of the answer says of the same conductor, over jobs made by random edits. */

const demos: readonly Job[] = demoJobs.map((d) => d.edits.reduce((j, e) => applyEdit(j, e).job, newJob(d.region, d.title, d.place)))
/** The job after an edit, or as it was where that is refused. */
function tried(job: Job, edit: Edit): Job {
  try {
    return applyEdit(job, edit).job
  } catch (e) {
    if (e instanceof EditError) return job
    throw e
  }
}
const jobs = fc
  .tuple(fc.oneof(anyJob, fc.constantFrom(...demos, ...Object.values(wiringJobs))), fc.array(dice, { maxLength: 10 }))
  .map(([start, rolls]) => rolls.reduce((now, roll) => tried(now, editBy(now, roll)), start))
const runs = { numRuns: Number(process.env.RUNS ?? 50) }

/** A job with all that is answered of it. */
function answered(record: Job) {
  const job = read(record)
  const report = evaluate(job, [])
  return { job, report, ...builtOf(job, report) }
}
type Answered = ReturnType<typeof answered>
const coreKey = (cable: string, core: string): string => `${cable}|${core}`
const over = (check: (a: Answered) => void) =>
  fc.assert(
    fc.property(jobs, (record) => check(answered(record))),
    runs,
  )

/** Lights, lampholders and fans are fixed to the box itself: they take no allowance of a device on a yoke. NFPA 70 314.16(B)(4). */
const onNoYoke = /^na-(light(-[a-z]+)?|lampholder|(ceiling-)?fan|fan-(light|overrun))$/

describe('what will be there', () => {
  it('has every end of every core once, on a terminal, a joint, a bar or a cap that is there', () => {
    over(({ job, built }) => {
      const ends = new Map<string, number>()
      const add = (k: string) => ends.set(k, (ends.get(k) ?? 0) + 1)
      for (const box of built.boxes) {
        const places = new Set(['cap', ...box.accessories.flatMap((a) => a.terminals.map((t) => t.id)), ...box.joints.map((j) => j.id)])
        for (const e of box.ends) {
          add(coreKey(e.cable, e.core))
          expect(places).toContain(e.to)
        }
      }
      for (const way of built.boards.flatMap((b) => b.ways)) for (const l of way.lands) add(coreKey(l.cable, l.core))
      // A box that was found and nobody opened is not drawn: a cable that begins in it has its other end alone.
      const boxed = new Set(built.boxes.map((b) => b.id))
      const found = new Set(job.record.points.filter((p) => !boxed.has(p.id)).map((p) => p.id))
      for (const k of built.cables)
        for (const c of k.cores)
          expect(ends.get(coreKey(k.id, c.id)), `${k.id} ${c.id}`).toBe(k.to.startsWith('appliance:') || found.has(k.from) ? 1 : 2)
    })
  })

  it('is given conductor by conductor alike by the order of work: the same terminal or joint, the same marking', () => {
    over(({ built, steps }) => {
      for (const box of built.boxes) {
        const own = steps.filter((s) => s.box === box.id)
        if (own.length === 0) continue
        const told = own.filter((s) => s.do !== 'mark').map((s) => `${s.cable}|${s.core}|${s.to ?? 'cap'}`)
        expect(told.toSorted()).toEqual(box.ends.map((e) => `${e.cable}|${e.core}|${e.to}`).toSorted())
        const marks = own.filter((s) => s.do === 'mark').map((s) => `${s.cable}|${s.core}|${s.as}`)
        expect(marks.toSorted()).toEqual(box.ends.flatMap((e) => (e.marked ? [`${e.cable}|${e.core}|${e.marked}`] : [])).toSorted())
        expect(own.map((s) => s.n)).toEqual(own.map((_, i) => i + 1))
      }
    })
  })

  it('is what is bought, item by item: nothing that is not built, nothing built that is neither bought nor there', () => {
    over(({ job, built, materials, report, removed }) => {
      const sum = (kind: string) => materials.filter((m) => m.kind === kind).reduce((n, m) => n + m.quantity, 0)
      const fresh = new Set(job.record.points.filter((p) => p.state === 'new').map((p) => p.id))
      const newBoxes = built.boxes.filter((b) => b.points.every((p) => fresh.has(p)))
      const put = (b: BoxRecord) => b.planned !== undefined || newBoxes.some((n) => n.id === b.id && b.kind !== null)
      const bought = (b: (typeof built.boxes)[number]): number => {
        const own = b.accessories.filter((a) => a.point !== null && fresh.has(a.point))
        const plates = own.filter((a) => accessory(a.kind)?.shares === 'plate').length
        return own.length - plates + Math.ceil(plates / sharing.plate)
      }
      expect(sum('accessory')).toBe(built.boxes.reduce((n, b) => n + bought(b), 0))
      expect(sum('box')).toBe(job.boxes.filter((b) => built.boxes.some((x) => x.id === b.id) && put(b)).length)
      expect(sum('device')).toBe(built.boards.flatMap((b) => b.ways).filter((w) => w.planned !== null).length)
      const known = new Set([
        ...built.boxes.flatMap((b) => [b.id, ...b.points]),
        ...built.boards.flatMap((b) => b.ways.map((w) => w.id)),
        ...built.cables.flatMap((k) => [k.id, k.id.split(' ')[0]!]),
        ...built.raceways.map((r) => r.id),
        ...removed.map((r) => r.box),
      ])
      for (const m of materials) for (const at of m.where) expect(known, `${m.what} at ${at}`).toContain(at)
      // Every new cable of a known size and length is bought, or is one of single conductors that are.
      const laid = report.circuits.flatMap((c) => (c.chosen.result?.size ? c.circuit.cables : []))
      for (const k of built.cables) {
        const recorded = laid.find((x) => x.id === k.id)
        if (!recorded || k.state !== 'new' || k.lengthM === null) continue
        expect(
          materials.some((m) => (m.kind === 'cable' || m.kind === 'conductor') && m.where.includes(k.id)),
          k.id,
        ).toBe(true)
      }
    })
  })

  it('fills a box with exactly the conductors, joints and accessories in it', () => {
    over(({ job, built, report }) => {
      if (worlds[job.region].boxesBy !== 'volume') return
      for (const c of report.circuits)
        for (const e of c.ends) {
          const fill = e.boxReport.fill
          const box = built.boxes.find((b) => e.points.includes(b.id))
          if (!fill || !box || !e.built) continue
          const entering = e.built.cables.filter((k) => k.side !== 'load' || (k.size !== null && e.box.others === 0))
          const counted = fill.input.conductors.reduce((n, x) => n + x.count, 0)
          const others = e.box.others * (entering[0]?.ends.filter((x) => x.conductor.role !== 'pe').length ?? 2)
          expect(counted - others).toBe(entering.reduce((n, k) => n + k.ends.filter((x) => x.conductor.role !== 'pe').length, 0))
          expect(fill.input.grounding!.count).toBe(entering.length + e.box.others)
          expect(fill.input.devices).toHaveLength(box.accessories.filter((a) => !onNoYoke.test(a.kind)).length)
        }
    })
  })

  it('keeps what was found apart from what is planned, whatever is designed', () => {
    fc.assert(
      fc.property(jobs, fc.array(dice, { minLength: 1, maxLength: 6 }), (record, rolls) => {
        const found = (job: Job) => job.ways.filter((w) => w.state === 'existing').map(({ planned: _, ...w }) => w)
        for (const roll of rolls) {
          const edit = editBy(record, roll)
          if (!edit.kind.startsWith('design')) continue
          const ids = new Set(record.ways.map((w) => w.id))
          expect(found(tried(record, edit)).filter((w) => ids.has(w.id))).toEqual(found(record))
        }
      }),
      { numRuns: 150 },
    )
    over(({ job, built }) => {
      for (const way of built.boards.flatMap((b) => b.ways)) {
        const recorded = job.record.ways.find((w) => w.id === way.id)
        if (!recorded || recorded.state === 'new') expect(way.found).toBeNull()
        else if (way.found) expect(way.found).toMatchObject({ ratingA: recorded.ratingA, poles: recorded.poles })
      }
    })
  })

  it('has a label at each end of each new cable, and none of a cable that stays', () => {
    over(({ built, labels, report }) => {
      const own = new Set(report.circuits.flatMap((c) => c.circuit.cables.map((k) => k.id)))
      for (const id of own) {
        const [k] = built.cables.filter((x) => x.id === id || x.id.startsWith(`${id} `))
        if (!k) continue
        expect(labels.filter((l) => l.cable === id)).toHaveLength(k.state === 'new' ? 2 : 0)
      }
    })
  })
})
