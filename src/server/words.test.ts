import { describe, expect, it } from 'vitest'
import { doubledWord, forbiddenPhrases, foreignTerms, wrongArticle, wrongPlural } from '../../scripts/forbidden-phrases'
import { saidBy, sentencesOf } from '../../tests/support/said'
import { demoJobs } from '../core/demo/demo'
import { read } from '../core/installation/installation'
import { applyEdit } from '../core/job/edits'
import { newJob } from '../core/job/schema'

const jobs = [
  ['north-america', 'sound3-na-routed-house-walls-only.json'],
  ['north-america', 'sound-na-kiln.json'],
  ['united-kingdom', 'sound3-uk-ukr.json'],
  ['southern-africa', 'sound-za-geyser.json'],
] as const

function wrongIn(world: keyof typeof foreignTerms, line: string): string | null {
  for (const re of [...forbiddenPhrases, foreignTerms[world], wrongPlural, wrongArticle]) {
    const [found] = re.exec(line) ?? []
    if (found) return `${found} <<< ${line}`
  }
  return null
}
const wrong = (world: keyof typeof foreignTerms, lines: readonly string[]) => [...new Set(lines.flatMap((l) => wrongIn(world, l) ?? []))]

describe('what a job says', () => {
  it.each(jobs)(
    'has the words of its world on screens and papers: %s, %s',
    async (world, file) => {
      const lines = await saidBy(file, world === 'north-america' ? 'imperial' : 'metric')
      expect(lines.length).toBeGreaterThan(400)
      expect(wrong(world, lines)).toEqual([])
      // On paper two columns may end and begin alike; a sentence has no word twice.
      expect(lines.filter((l) => !/^[a-z]+\.(pdf|csv): /.test(l) && doubledWord.test(l))).toEqual([])
    },
    60_000,
  )
  it.each(demoJobs.map((d) => [d.title, d] as const))('has the words of its world in the findings, workings and tests of %s', (_, demo) => {
    const job = read(demo.edits.reduce((j, e) => applyEdit(j, e).job, newJob(demo.region, demo.title, demo.place)))
    const lines = sentencesOf(job, [])
    expect(lines.length).toBeGreaterThan(15)
    expect(wrong(demo.region, lines)).toEqual([])
    expect(lines.filter((l) => doubledWord.test(l))).toEqual([])
  })
  it('is read by these rules: each finds its own mistake', () => {
    for (const [line, finds] of [
      ['nobody looked', true],
      ['the RCD is wrong here', true],
      ['1 points', true],
      ['11 points', false],
      ['a 80 A breaker', true],
      ['an 80 A breaker', false],
      ['standing water', false],
      ['it stands there', true],
    ] as const)
      expect([line, wrongIn('southern-africa', line) !== null]).toEqual([line, finds])
    expect(doubledWord.test('this is is so')).toBe(true)
    expect(doubledWord.test('that that is')).toBe(false)
  })
})
