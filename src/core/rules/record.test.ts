import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { read } from '../installation/installation'
import { readJobFile } from '../job/file'
import { newRoom } from '../job/room'
import type { Job } from '../job/schema'
import { worlds } from '../region/worlds'
import { recordFindings } from './record'

/** The wheel room: two new receptacles in a row. */
const { job } = readJobFile(JSON.parse(readFileSync('tests/jobs/na3-crash-cable-removed-feeds.json', 'utf8')))
type Cable = Job['cables'][number]
const withCable = (change: Partial<Cable>, id = 'to-b'): Job => ({
  ...job,
  cables: job.cables.map((k) => (k.id === id ? { ...k, state: 'new', ...change } : k)),
})
const found = (of: Job) => recordFindings(read(of)).map((f) => `${f.rule} ${f.about}`)

describe('the record', () => {
  it('says of a new point that no cable reaches it, and that a cable which is removed does not', () => {
    expect(found(withCable({}))).toEqual([])
    expect(found(withCable({ state: 'removed' }))).toEqual(['point-unreached point:b'])
    expect(found({ ...job, cables: job.cables.filter((k) => k.id !== 'to-b') })).toEqual(['point-unreached point:b'])
  })
  it('questions a length of 0, and neither a short one nor one that is not known', () => {
    expect(found(withCable({ lengthM: 0 }))).toEqual(['length-zero point:b'])
    expect(found(withCable({ lengthM: 300 }))).toEqual([])
    expect(found(withCable({ lengthM: 301 }))).toEqual(['length-doubtful point:b'])
    expect(found(withCable({ lengthM: 0.1 }))).toEqual([])
    expect(found(withCable({ lengthM: null }))).toEqual([])
  })
  it('refuses a point above the ceiling of its room, and none at it', () => {
    const at = (heightMm: number | null) => {
      const { box } = job.points.find((p) => p.id === 'b')!
      const room = { ...newRoom('high', 'Low room'), measured: { lengthM: 4, widthM: 4, heightM: 2.4, beside: null } }
      return found({
        ...withCable({}),
        rooms: [...job.rooms, room],
        boxes: job.boxes.map((b) => (b.id === box ? { ...b, room: 'high', heightMm } : b)),
      })
    }
    expect(at(2400)).toEqual([])
    expect(at(2401)).toEqual(['point-above-ceiling point:b'])
    expect(at(null)).toEqual([])
  })
  it('asks for a listed type of cable, and for one metal in a circuit of copper', () => {
    expect(found(withCable({ type: 'bell wire' }))).toEqual(['cable-not-listed point:b'])
    for (const type of worlds['north-america'].cables) expect(found(withCable({ type }))).toEqual([])
    expect(found(withCable({ metal: 'aluminium' }))).toEqual(['cable-aluminium point:b'])
    expect(found(withCable({ metal: 'copper' }))).toEqual([])
  })
  it('asks for the condition of what stays and is altered, and of nothing else', () => {
    const as = (change: Partial<Job['points'][number]>) =>
      found({ ...job, points: job.points.map((p) => (p.id === 'b' ? { ...p, ...change } : p)) })
    expect(as({ state: 'altered', condition: null })).toEqual(['condition-not-known point:b'])
    expect(as({ state: 'altered', condition: 'worn' })).toEqual([])
    expect(as({ state: 'existing', condition: null })).toEqual([])
  })
  it('has no point above the ceiling of its room, and one just at it', () => {
    const measured = { lengthM: 4, widthM: 4, heightM: 2.4, beside: null }
    const at = (heightMm: number): Job => ({
      ...withCable({}),
      rooms: [{ id: 'wheel', name: 'Wheel room', floor: 0, alongM: null, acrossM: null, finished: null, measured }],
      boxes: job.boxes.map((b) => (b.id === 'a' ? { ...b, room: 'wheel', heightMm } : b)),
    })
    expect(found(at(2400))).toEqual([])
    expect(found(at(2401))).toEqual(['point-above-ceiling point:a'])
  })
})
