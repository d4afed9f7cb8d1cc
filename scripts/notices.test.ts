import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { document, notices, reaching } from './notices'

describe('licences of what ships', () => {
  it('are listed in full, and none reaches beyond its own files or library', async () => {
    const list = await notices()
    expect(list.length).toBeGreaterThan(50)
    expect(list.filter((n) => /unknown|unlicensed/i.test(n.licence))).toEqual([])
    expect(list.filter((n) => reaching(n.licence))).toEqual([])
    expect(readFileSync('THIRD-PARTY-NOTICES.md', 'utf8')).toBe(document(list))
  })
  it.each(['GPL-3.0', 'AGPL-3.0-or-later', 'GPL-2.0 OR AGPL-3.0', 'CC-BY-NC-4.0', 'SSPL-1.0'])('%s reaches too far', (l) =>
    expect(reaching(l)).toBe(true),
  )
  it.each(['MIT', 'LGPL-3.0-or-later', 'MPL-2.0', 'EPL-2.0 OR GPL-3.0-or-later', '(MIT OR GPL-2.0)', 'OFL-1.1'])('%s does not', (l) =>
    expect(reaching(l)).toBe(false),
  )
})
