import { describe, expect, it } from 'vitest'
import { partName, placeWords, withNames } from './place-words'

const names = new Map([
  ['a', 'Left'],
  ['bed', 'Bed'],
  ['bed 2', 'Bed 2'],
  ['room-hall', 'Hall'],
])
const part = (room: string | null, side: 'north' | null, beyond: string | null) =>
  placeWords(partName({ kind: 'surface', room, side, beyond }), names)

describe('a place of a route in words', () => {
  it('has the name of its room, whatever other ids are in it', () => {
    expect(part('room-hall', 'north', null)).toBe('on the face: Hall, north wall')
    expect(part('bed 2', 'north', null)).toBe('on the face: Bed 2, north wall')
    expect(part('bed', 'north', null)).toBe('on the face: Bed, north wall')
    expect(placeWords('surface-corner room-hall north to east', names)).toBe('round a corner on the face: Hall, north to east wall')
    expect(placeWords('partition room-hall north to bed 2', names)).toBe('through a partition: Hall, north wall to Bed 2')
    expect(placeWords('partition room-hall to bed', names)).toBe('through a partition: Hall to Bed')
    expect(placeWords('cavity room-hall ceiling', names)).toBe('inside a wall: Hall, ceiling')
    expect(placeWords('attic', names)).toBe('attic')
    expect(part(null, null, null)).toBe('on the face')
  })
  it('names things in a sentence where their ids are words, and nowhere within one', () => {
    expect(withNames('room-hall has a door; alarm', names)).toBe('Hall has a door; alarm')
  })
})
