import fc from 'fast-check'
import { openSync } from 'fontkit'
import { describe, expect, it } from 'vitest'
import { faces, inFaces } from './faces'

const faceOf = (text: string) => inFaces(text, 'Text').map((r) => `${r.face}: ${r.text}`)
const fonts = Object.fromEntries(Object.entries(faces).map(([name, f]) => [name, openSync(f.normal)]))

describe('words on paper', () => {
  it('are set in the first face that shows them', () => {
    expect(faceOf('Kiln, 4.5 kW')).toEqual(['Text: Kiln, 4.5 kW'])
    expect(faceOf('Sockets 电源, hall')).toEqual(['Text: Sockets ', 'Every: 电源, ', 'Text: hall'])
    expect(faceOf('🔌 urn')).toEqual(['Signs: 🔌 ', 'Text: urn'])
  })
  it('of several signs that make one picture stay together', () => expect(faceOf('👩‍🔧')).toEqual(['Signs: 👩🔧']))
  it('that no face shows are written by their number', () => expect(faceOf('a\u{13000}b')).toEqual(['Text: a[U+13000]b']))
  it('written from right to left come in the order of the line', () =>
    expect(
      inFaces('לוח ראשי, hall', 'Text')
        .map((r) => r.text)
        .join(''),
    ).toBe('ראשי לוח, hall'))
  it('are all shown, whatever is typed, in faces that have them', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 30 }), (text) => {
        for (const run of inFaces(text, 'Text'))
          for (const sign of run.text.replaceAll('\n', '')) {
            const font = fonts[run.face]!
            const shown = 'hasGlyphForCodePoint' in font && font.hasGlyphForCodePoint(sign.codePointAt(0)!)
            if (!shown) expect.fail(`${sign} in ${run.face}`)
          }
      }),
      { numRuns: 2000 },
    )
  })
})
