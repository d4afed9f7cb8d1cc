import { isUtf8 } from 'node:buffer'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { firstNotUtf8 } from './utf8'

describe('a text that is no UTF-8', () => {
  it('is told by its first byte that is none', () => {
    expect(firstNotUtf8(Buffer.from('grün'))).toBe(5)
    expect(firstNotUtf8(Buffer.concat([Buffer.from('gr'), Buffer.from([0xfc]), Buffer.from('n')]))).toBe(2)
    expect(firstNotUtf8(Buffer.from([0x61, 0xe2, 0x82]))).toBe(1)
    // An overlong letter, half of a pair, and what is beyond the last character.
    for (const bytes of [
      [0xc0, 0x80],
      [0xed, 0xa0, 0x80],
      [0xf4, 0x90, 0x80, 0x80],
    ])
      expect(firstNotUtf8(Uint8Array.from(bytes))).toBe(0)
  })
  it('is what Node holds to be none, whatever its bytes', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 40 }), (bytes) => {
        const at = firstNotUtf8(bytes)
        expect(at === bytes.length).toBe(isUtf8(bytes))
        expect(isUtf8(bytes.subarray(0, at))).toBe(true)
      }),
    )
  })
})
