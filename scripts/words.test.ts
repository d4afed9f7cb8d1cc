import { readdirSync, readFileSync } from 'node:fs'
import path from 'node:path'
import { parseSync } from 'oxc-parser'
import { expect, it } from 'vitest'
import { doubledWord, forbiddenPhrases, wrongArticle, wrongPlural } from './forbidden-phrases'

/** Classes of a style sheet: no sentence has so many words with a hyphen, a colon or a bracket. */
function isStyle(text: string): boolean {
  const words = text.split(' ')
  return (
    words.filter((w) => /^[\w!&>*:[\]().%/-]+$/.test(w) && /[a-z\]][-:][\w[]|^(flex|grid|btn|block|hidden|truncate)$/.test(w)).length * 2 >=
    words.length
  )
}

/** Texts of a file that people may read: strings, templates and what is between tags, of more than one word. */
function textsOf(file: string): { readonly at: number; readonly text: string }[] {
  const code = readFileSync(file, 'utf8')
  const texts: { at: number; text: string }[] = []
  const walk = (n: unknown): void => {
    if (Array.isArray(n)) return n.forEach(walk)
    if (typeof n !== 'object' || n === null) return
    const { type, value, start } = n as { type?: string; value?: unknown; start?: number }
    if (type === 'ImportDeclaration') return
    const cooked = type === 'TemplateElement' ? (value as { cooked: string | null }).cooked : value
    if (type && /^(Literal|TemplateElement|JSXText)$/.test(type) && typeof cooked === 'string') {
      const text = cooked.trim().replaceAll(/\s+/g, ' ')
      if (text.includes(' ') && !isStyle(text)) texts.push({ at: start ?? 0, text })
    }
    for (const part of Object.values(n)) walk(part)
  }
  walk(parseSync(file, code).program)
  return texts
}

const sources = readdirSync('src', { recursive: true, encoding: 'utf8' })
  .filter((f) => /\.tsx?$/.test(f) && !f.endsWith('.test.ts') && !f.includes(path.join('job', 'older')))
  .map((f) => path.join('src', f))

it('the texts of the source say nothing that is not said', () => {
  let read = 0
  const wrong = sources.flatMap((file) =>
    textsOf(file).flatMap(({ text }) => {
      read++
      return [...forbiddenPhrases, doubledWord, wrongPlural, wrongArticle].flatMap((re) =>
        re.test(text) ? [`${file}: “${re.exec(text)![0]}” in ${text}`] : [],
      )
    }),
  )
  expect(read).toBeGreaterThan(4000)
  expect(wrong).toEqual([])
})
