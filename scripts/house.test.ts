import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'

const sources = ['src', 'tests', 'scripts'].flatMap((folder) =>
  readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((f) => /\.(ts|tsx|mts|mjs)$/.test(f))
    .map((f) => ({ file: `${folder}/${f}`, text: readFileSync(`${folder}/${f}`, 'utf8') })),
)

describe('the house', () => {
  it('has no line over 140 characters', () => {
    const long = sources.flatMap(({ file, text }) => text.split('\n').flatMap((l, i) => (l.length > 140 ? [`${file}:${i + 1}`] : [])))
    expect(sources.length).toBeGreaterThan(200)
    expect(long).toEqual([])
  })

  it('compares names of worlds outside their folder more than a few times belongs into the world’s value', () => {
    const name = `'(north-america|united-kingdom|southern-africa)'`
    const compared = new RegExp(String.raw`(===|!==)\s*${name}|${name}\s*(===|!==)`, 'g')
    const code = sources.filter(({ file }) => file.startsWith('src/') && !file.startsWith('src/core/region/') && !file.includes('.test.'))
    const count = code.reduce((sum, { text }) => sum + (text.match(compared)?.length ?? 0), 0)
    expect(count).toBeLessThanOrEqual(10)
    expect(count).toBeGreaterThan(0)
  })

  it('decides what is connected to which terminal in one place', () => {
    // What a terminal takes is asked where wiring is built, and where what was built is checked against what was asked.
    const may = ['src/core/build/', 'src/core/catalogue/', 'src/core/wired/']
    const told = /\.takes\b|endsWith\('-(two-way|intermediate|fan-light)'\)/
    const code = sources.filter(({ file }) => file.startsWith('src/') && !file.includes('.test.'))
    expect(code.filter(({ file, text }) => file.startsWith('src/core/build/') && told.test(text)).length).toBeGreaterThan(1)
    expect(code.filter(({ file, text }) => told.test(text) && !may.some((m) => file.startsWith(m))).map((x) => x.file)).toEqual([])
  })
})
