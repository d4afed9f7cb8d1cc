import { beforeEach, describe, expect, it } from 'vitest'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { newJob } from '../core/job/schema'
import { signedText } from '../core/documents/signing'
import { dueCalendar } from '../server/due-calendar'
import { dueAgain, samePlace } from './due'
import { createJob, deleteJob, editJob, loadJob, undoJob } from './jobs'
import { openStore, type Store } from './open'

const hand = { by: 'Ann', at: '2026-11-20T08:00:00.000Z' }
let store: Store
const due = (job: string, id: string, what: string, on: string) =>
  editJob(store, job, loadJob(store, job).revision, { kind: 'due.add', item: { id, what, on, doneOn: null } }, hand)
beforeEach(() => {
  store = openStore(mkdtempSync(path.join(tmpdir(), 'synthema-due-')))
  createJob(store, 'a', newJob('united-kingdom', 'Tea kitchen', 'Village hall'), [], hand)
  createJob(store, 'b', newJob('united-kingdom', 'Stage', ' village HALL '), [], hand)
  createJob(store, 'c', newJob('southern-africa', 'Bench', 'Honey house'), [], hand)
})

describe('what is due again', () => {
  it('is listed over all jobs, the earliest first, without what was done, undone or deleted', () => {
    due('a', 'd1', 'Inspection and test', '2031-11-20')
    due('b', 'd2', 'Test button', '2027-05-20')
    due('c', 'd3', 'Inspection and test', '2028-01-01')
    expect(dueAgain(store).map((d) => [d.job, d.on])).toEqual([
      ['b', '2027-05-20'],
      ['c', '2028-01-01'],
      ['a', '2031-11-20'],
    ])
    editJob(store, 'b', loadJob(store, 'b').revision, { kind: 'due.set', id: 'd2', patch: { doneOn: '2027-05-19' } }, hand)
    deleteJob(store, 'c', hand.at)
    expect(dueAgain(store).map((d) => d.job)).toEqual(['a'])
    undoJob(store, 'b', loadJob(store, 'b').revision, hand)
    expect(dueAgain(store).map((d) => d.job)).toEqual(['b', 'a'])
  })

  it('is a calendar of whole days', () => {
    due('a', 'd1', 'Inspection and test', '2031-11-20')
    const text = dueCalendar(dueAgain(store)).replaceAll(/\r?\n[ \t]/g, '')
    expect(text).toMatch(/DTSTART;VALUE=DATE:20311120/)
    expect(text).toContain('SUMMARY:Inspection and test: Tea kitchen')
    expect(dueCalendar([])).toContain('BEGIN:VCALENDAR')
  })

  it('leaves a signature as it is', () => {
    const { job } = loadJob(store, 'a')
    const before = signedText(job, [])
    due('a', 'd1', 'Inspection and test', '2031-11-20')
    expect(signedText(loadJob(store, 'a').job, [])).toBe(before)
  })
})

describe('other jobs at a place', () => {
  it('are those with the same words, whatever their case', () => {
    expect(samePlace(store, 'a').map((j) => j.id)).toEqual(['b'])
    expect(samePlace(store, 'c')).toEqual([])
    createJob(store, 'd', newJob('southern-africa', 'Nowhere', ''), [], hand)
    createJob(store, 'e', newJob('southern-africa', 'Nowhere too', ''), [], hand)
    expect(samePlace(store, 'd')).toEqual([])
  })
})
