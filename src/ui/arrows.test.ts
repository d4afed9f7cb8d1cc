import { describe, expect, it } from 'vitest'
import { nearest } from './arrows'

const [a, b, c, d] = [
  { id: 'a', x: 0, y: 0 },
  { id: 'b', x: 10, y: 1 },
  { id: 'c', x: 4, y: 30 },
  { id: 'd', x: 30, y: 0 },
]
const all = [a!, b!, c!, d!]

describe('an arrow in a drawing', () => {
  it('goes to the nearest place in its direction, and nowhere past the last', () => {
    expect(nearest('ArrowRight', a!, all)).toBe(b)
    expect(nearest('ArrowRight', b!, all)).toBe(d)
    expect(nearest('ArrowLeft', d!, all)).toBe(b)
    expect(nearest('ArrowDown', a!, all)).toBe(c)
    expect(nearest('ArrowUp', c!, all)).toBe(a)
    expect(nearest('ArrowRight', d!, all)).toBeNull()
  })
  it('is no other key', () => expect(nearest('Enter', a!, all)).toBeNull())
})
