import { describe, expect, it } from 'vitest'
import { readJobFile } from '../core/job/file'
import { newJob, type Reading } from '../core/job/schema'
import { makePaper } from './papers'

const rude = '=HYPERLINK("x")'
const reading: Reading = { id: 'r', circuit: 'c1', test: 'zs', value: 0.7, mark: null, unit: 'Ω', at: '2026-11-20T08:00:00.000Z', by: '+x', instrument: '@meter', note: rude, corrects: null }
const stored = { id: 'j', revision: 3, job: newJob('united-kingdom', 'Tea <b>kitchen</b>', ''), readings: [reading], undoLabel: null, redoLabel: null, updatedAt: reading.at }
const paper = async (name: string) => (await makePaper(name, { stored, units: 'metric', circuit: null }))!

describe('papers', () => {
  it('CSV cells that a spreadsheet would run are text', async () => {
    const csv = String((await paper('readings.csv')).body)
    expect(csv.split('\r\n')[0]).toBe('circuit,test,value,mark,unit,at,by,instrument,note,id,corrects')
    expect(csv).toContain("'=HYPERLINK")
    expect(csv).toContain("'+x")
    expect(csv).toContain("'@meter")
    expect(csv).toContain(',0.7,')
  })
  it('the Job file reads back to the same', async () => {
    const file = readJobFile(JSON.parse(String((await paper('file.json')).body)))
    expect(file).toMatchObject({ job: stored.job, readings: [reading] })
  })
  it.each(['record.pdf', 'wiring.pdf', 'trace.pdf', 'labels.pdf'])('%s is a PDF even of an empty job', async (name) => {
    expect(Buffer.from((await paper(name)).body).subarray(0, 5).toString()).toBe('%PDF-')
  })
  it('knows no others', () => expect(makePaper('../secret', { stored, units: 'metric', circuit: null })).toBeNull())
})
