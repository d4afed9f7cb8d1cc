import { readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import { glossary } from './glossary'

it('docs/glossary.md is what the screens say', () => {
  expect(readFileSync('docs/glossary.md', 'utf8')).toBe(glossary())
})
it('has the word of each world', () => {
  expect(glossary()).toContain('| panel | consumer unit | distribution board |')
  expect(glossary()).toContain('| circuit directory | circuit chart | circuit chart |')
  expect(glossary()).toContain('| subpanel | sub-board | sub-board |')
})
