import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { linesOf, textOf } from '../../../tests/support/pdf'
import { newJob } from '../../core/job/schema'
import type { Filed } from '../../store/photographs'
import { makeAsked } from '../papers'
import type { Made } from '../paper'
import { PICTURES } from './kit'

const of = { kind: 'job', id: '' } as const
const filed = (hash: string, words: string, file: string | null): Filed => ({
  photograph: hash,
  of,
  words,
  out: false,
  hash,
  widthPx: 1600,
  heightPx: 1200,
  at: '2026-11-20T08:00:00.000Z',
  by: 'Ada',
  moment: null,
  marks: [],
  file,
})

describe('photographs on paper', () => {
  it('are as large as they are printed, and one that cannot be read or is gone spoils no other', async () => {
    const folder = mkdtempSync(PICTURES)
    try {
      const [sound, bad] = [path.join(folder, 'sound.jpg'), path.join(folder, 'bad.jpg')]
      await sharp({ create: { width: 1600, height: 1200, channels: 3, background: '#446688' } })
        .jpeg()
        .toFile(sound)
      writeFileSync(bad, 'no picture')
      const job = newJob('united-kingdom', 'Tea kitchen', 'Village hall')
      const stored = { id: 'j', revision: 1, job, readings: [], undo: null, redo: null, updatedAt: '2026-11-20T08:00:00.000Z' }
      const photographs = [filed('a0', 'The urn', sound), filed('b1', 'The hatch', bad), filed('c2', 'The stage', null)]
      const made = (await makeAsked('photographs.pdf', { stored, units: 'metric', circuit: null, photographs }, folder)) as Made
      const pictures = [
        ...Buffer.from(made.body as Uint8Array)
          .toString('latin1')
          .matchAll(/\/Subtype \/Image[^>]*?\/Width (\d+)/g),
      ]
      expect(pictures.map(([, width]) => width)).toEqual(['1000'])
      const lines = linesOf(await textOf(made.body))
        .flat()
        .join('\n')
      expect(lines.match(/no longer there, or cannot be read/g)).toHaveLength(2)
      for (const words of ['The urn', 'The hatch', 'The stage']) expect(lines).toContain(words)
    } finally {
      rmSync(folder, { recursive: true })
    }
  })
})
