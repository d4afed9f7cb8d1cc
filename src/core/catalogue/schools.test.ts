import { describe, expect, it } from 'vitest'
import { applyShort as applyEdit, newJob, type Short as Edit } from '../../../tests/support/shorthand'
import { evaluate } from '../evaluate/evaluate'
import { workSteps } from '../build/steps'
import { read } from '../installation/installation'
import { followed, schools, schoolsFor } from './schools'

const choose = (school: string, option: string | null): Edit => ({ kind: 'school.choose', school, option })
const made = (region: 'north-america' | 'united-kingdom', ...edits: Edit[]) =>
  edits.reduce((j, e) => applyEdit(j, e).job, newJob(region, 'Ways of working', ''))

describe('ways of working', () => {
  it('follow the first where nothing is said, and what is said afterwards; taken back, the first again', () => {
    const job = made('united-kingdom', choose('cooking', 'ahead'))
    expect(followed(job.brief.schools, 'cooking')).toBe('ahead')
    expect(followed(job.brief.schools, 'joints')).toBe('either')
    expect(followed(made('united-kingdom', choose('cooking', 'ahead'), choose('cooking', null)).brief.schools, 'cooking')).toBe('behind')
  })
  it('refuse a matter of another world and a way that is none', () => {
    expect(() => made('north-america', choose('cooking', 'ahead'))).toThrow(/no such matter/)
    expect(() => made('united-kingdom', choose('cooking', 'sideways'))).toThrow(/no such way/)
    for (const s of schools) expect(s.options.length).toBeGreaterThan(1)
    expect(schoolsFor('north-america').map((s) => s.id)).toContain('ground-pin')
  })
  it('are followed by the wiring steps', () => {
    const words = (chosen: Record<string, string>) => {
      const job = made(
        'north-america',
        { kind: 'load.set', circuit: 'c1', patch: { volts: 120, amount: 600 } },
        { kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory: 'na-gfci-20', minSize: '12 AWG', lengthM: 9 } },
        {
          kind: 'circuit-point.add',
          circuit: 'c1',
          points: [
            { id: 'p', name: 'First' },
            { id: 'q', name: 'Next', from: 'p' },
          ],
        } as Edit,
        ...Object.entries(chosen).map(([school, option]) => choose(school, option)),
      )
      return workSteps(read(job), evaluate(job, []).circuits[0]!.ends[0]!.built!, 'imperial')
        .map((s) => s.text)
        .join(' ')
    }
    expect(words({})).toContain('lever or twist-on')
    expect(words({ joints: 'lever' })).toContain('in a lever connector listed for')
    expect(words({ joints: 'twist' })).toContain('in a twist-on connector listed for')
    expect(words({})).toContain('at least 6 in of free conductor')
    expect(words({ tails: 'working' })).toContain('8 in of free conductor')
    expect(words({})).not.toContain('Tape round')
    expect(words({ tape: 'yes' })).toContain('Tape round the terminals')
    expect(words({ 'ground-pin': 'up' })).toContain('Ground pin up.')
  })
  it('are followed by the isolation: the circuit alone, or the main', () => {
    const altered: Edit[] = [
      { kind: 'load.set', circuit: 'c1', patch: { amount: 500 } },
      { kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory: 'uk-socket-13', lengthM: 9 } },
      { kind: 'circuit.set', circuit: 'c1', patch: { work: 'altered', way: '4' } },
    ]
    const off = (...more: Edit[]) => evaluate(made('united-kingdom', ...altered, ...more), []).circuits[0]!.tests[0]!.title
    expect(off()).toBe('Switch off way 4')
    expect(off(choose('off', 'main'))).toBe('Switch off the main switch of the consumer unit')
  })
  it('are followed by the rule on cooker-type loads, which says both', () => {
    const cooker: Edit[] = [
      { kind: 'load.set', circuit: 'c1', patch: { amount: 3000, nature: 'cooking' } },
      { kind: 'design.set', circuit: 'c1', design: 'a', patch: { residual: { at: 'none', ma: 30, type: null } } },
    ]
    const said = (...more: Edit[]) =>
      evaluate(made('united-kingdom', ...cooker, ...more), []).circuits[0]!.findings.find((f) => f.rule === 'cooking-ahead-of-residual')
    expect(said()).toMatchObject({ severity: 'warning', message: expect.stringContaining('say so in the brief') })
    expect(said(choose('cooking', 'ahead'))).toMatchObject({ severity: 'note', message: expect.stringContaining('This job follows those') })
  })
})
