import { describe, expect, it } from 'vitest'
import { dxfLines, MOST_BYTES } from './dxf-lines'

/** A drawing as a program would save it: pairs of code and value. */
const file = (entities: string, head = '9\n$INSUNITS\n70\n4\n') =>
  `0\nSECTION\n2\nHEADER\n${head}0\nENDSEC\n0\nSECTION\n2\nENTITIES\n${entities}0\nENDSEC\n0\nEOF\n`
const wall = (layer: string, x: number, y: number, p: number, q: number) =>
  `0\nLINE\n8\n${layer}\n10\n${x}\n20\n${y}\n30\n0\n11\n${p}\n21\n${q}\n31\n0\n`
const outline = (layer: string, corners: readonly (readonly [number, number])[], bulge = 0) =>
  `0\nLWPOLYLINE\n8\n${layer}\n90\n${corners.length}\n70\n1\n` +
  corners.map(([x, y], i) => `10\n${x}\n20\n${y}\n${i === 0 && bulge ? `42\n${bulge}\n` : ''}`).join('')

describe('a drawing', () => {
  it('gives its lines by layer, closes what is closed, and counts what is left out', () => {
    const square = outline('walls', [
      [0, 0],
      [4000, 0],
      [4000, 3000],
      [0, 3000],
    ])
    const block = '0\nINSERT\n8\n0\n2\nsink\n10\n1\n20\n1\n30\n0\n'
    const circle = '0\nCIRCLE\n8\n0\n10\n1\n20\n1\n30\n0\n40\n5\n'
    const read = dxfLines(file(square + wall('grid', 0, 0, 9000, 0) + block + block + circle))
    expect(read).toMatchObject({
      unitM: 0.001,
      leftOut: [
        ['block', 2],
        ['circle', 1],
      ],
    })
    if ('wrong' in read) throw new Error(read.wrong)
    expect(read.layers.map((l) => [l.name, l.lines.length])).toEqual([
      ['walls', 4],
      ['grid', 1],
    ])
    expect(read.layers[0]!.lines[3]).toEqual({ a: [0, 3000], b: [0, 0] })
  })
  it('takes no bent side for a straight one', () => {
    const read = dxfLines(
      file(
        outline(
          'walls',
          [
            [0, 0],
            [4, 0],
            [4, 3],
          ],
          1,
        ),
      ),
    )
    if ('wrong' in read) throw new Error(read.wrong)
    expect(read.layers[0]!.lines).toHaveLength(2)
    expect(read.leftOut).toEqual([['arc', 1]])
  })
  it('that does not say its unit has none', () => {
    expect(dxfLines(file(wall('0', 0, 0, 1, 0), ''))).toMatchObject({ unitM: null })
    expect(dxfLines(file(wall('0', 0, 0, 1, 0), '9\n$INSUNITS\n70\n0\n'))).toMatchObject({ unitM: null })
  })
  it.each([
    ['nothing', ''],
    ['words', 'This is a letter.\nIt is no drawing.\n'],
    ['a picture', '\u0089PNG\r\n\u001a\n\0\0'],
    ['a list', '[1, 2, 3]'],
    ['half a file', file(wall('0', 0, 0, 1, 0)).slice(0, 60)],
    ['too much', 'x'.repeat(MOST_BYTES + 1)],
  ])('that is %s is refused with the reason', (_, text) => {
    expect(dxfLines(text)).toHaveProperty('wrong')
  })
  it('with numbers that are none leaves those lines out', () => {
    const read = dxfLines(file(wall('0', 0, 0, Number.NaN, 0) + wall('0', 0, 0, 1, 0)))
    expect(read).toMatchObject({ layers: [{ lines: [{ b: [1, 0] }] }] })
  })
})
